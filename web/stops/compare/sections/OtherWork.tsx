import { useRef, useState } from 'react'
import { CartesianGrid, ReferenceLine, ResponsiveContainer, Scatter, ScatterChart, XAxis, YAxis } from 'recharts'
import { Form } from 'react-bootstrap'
import { useDecidedCourse } from '../../../course/course'
import type { Compared, ComparedSection } from '../../../parts/compared'
import { counted, fixed, today } from '../../../parts/format'
import { ChartOut } from '../../../parts/take-out/ChartOut'
import { ChartTable } from '../../../parts/ChartTable'
import { inSteps } from '../../../parts/in-steps'

interface Props {
  compared: Compared
  chosen: ComparedSection | undefined
  others: readonly string[] | null
  onOthers: (ids: string[] | null) => void
}

/** What other work the sections are held against, and how marks go with it; both when somebody asks. */
export function OtherWork({ compared, chosen, others, onOthers }: Props) {
  const { table } = useDecidedCourse()
  const [drawn, setDrawn] = useState(false)
  const counts = new Set(compared.otherWork!.assessmentIds)
  const could = table.assessments.filter((a) => a.id !== compared.subject && a.componentId !== compared.subject)
  return (
    <section>
      <details onToggle={(e) => setDrawn((e.target as HTMLDetailsElement).open)}>
        <summary>How marks go with other work</summary>
        {drawn && <Regression compared={compared} chosen={chosen} />}
      </details>
      <details className="mt-1">
        <summary>What counts as other work ({counts.size})</summary>
        {could.map((a) => (
          <Form.Check
            key={a.id}
            id={`other-${a.id}`}
            label={a.title}
            checked={counts.has(a.id)}
            onChange={(e) => {
              const next = new Set(others ?? counts)
              if (e.target.checked) next.add(a.id)
              else next.delete(a.id)
              // Without any there would be nothing to hold it against.
              if (next.size > 0) onOthers([...next])
            }}
          />
        ))}
        {others && (
          <button className="quiet-button" onClick={() => onOthers(null)}>
            All that counts again
          </button>
        )}
      </details>
    </section>
  )
}

function Regression({ compared, chosen }: Pick<Props, 'compared' | 'chosen'>) {
  const chart = useRef<HTMLDivElement>(null)
  const { slope, df, elsewhere } = compared.otherWork!
  const inChosen = new Set(chosen?.people.map((p) => p.id))
  const dots = compared.everyone.people.flatMap((p) => {
    const x = elsewhere[p.id]
    return x === undefined ? [] : [{ id: p.id, x, y: p.value }]
  })
  const middle = { x: dots.reduce((s, d) => s + d.x, 0) / dots.length, y: dots.reduce((s, d) => s + d.y, 0) / dots.length }
  const at = (x: number) => middle.y + slope * (x - middle.x)
  const dot = (fill: string, r: number) => (p: { cx?: number; cy?: number }) => <circle cx={p.cx} cy={p.cy} r={r} fill={fill} />
  return (
    <>
      <p className="small soft mb-1">
        One percent more elsewhere goes with {fixed(slope, 2)} {compared.unit} more here, alike in all sections ({df} df).
        {chosen?.expected && (
          <>
            {' '}
            {chosen.name} reached {fixed(chosen.expected.elsewhere)}% elsewhere; marked like the others that would be{' '}
            {fixed(chosen.expected.mean - chosen.expected.againstOthers.difference, compared.decimals)} here, and it is{' '}
            {fixed(chosen.expected.mean, compared.decimals)}.
          </>
        )}
      </p>
      <div role="img" ref={chart} aria-label={`${compared.title} against other work, ${counted(dots.length, 'student')}`}>
        <ResponsiveContainer width="100%" height={200} initialDimension={{ width: 350, height: 200 }}>
          <ScatterChart margin={{ top: 6, right: 8, bottom: 18, left: -18 }} accessibilityLayer={false}>
            <CartesianGrid stroke="var(--rule)" strokeDasharray="1 3" />
            <XAxis
              type="number"
              dataKey="x"
              domain={['dataMin', 'dataMax']}
              tickFormatter={(v: number) => fixed(v, 0)}
              stroke="var(--soft-ink)"
              label={{ value: 'percent elsewhere', position: 'insideBottom', offset: -8, fill: 'var(--soft-ink)', fontSize: 12 }}
            />
            <YAxis type="number" dataKey="y" domain={[compared.from, compared.top]} stroke="var(--soft-ink)" />
            <Scatter data={dots.filter((d) => !inChosen.has(d.id))} shape={dot('var(--step-5)', 1.8)} isAnimationActive={false} />
            <Scatter data={dots.filter((d) => inChosen.has(d.id))} shape={dot('var(--ochre)', 2.6)} isAnimationActive={false} />
            <ReferenceLine
              segment={[
                { x: 0, y: at(0) },
                { x: 100, y: at(100) },
              ]}
              stroke="var(--ink)"
              ifOverflow="hidden"
            />
          </ScatterChart>
        </ResponsiveContainer>
      </div>
      <ChartOut
        words={{ title: `${compared.title} against other work`, under: `${counted(dots.length, 'student')}, ${today()}` }}
        within={chart}
      />
      <ChartTable heads={['percent elsewhere', 'students', 'mean here']} rows={() => inSteps(dots, 10)} />
    </>
  )
}
