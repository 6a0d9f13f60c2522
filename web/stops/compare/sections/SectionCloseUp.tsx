import { useMemo, useRef } from 'react'
import { Bar, BarChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts'
import { histogram } from '#core/compare'
import { percentOf } from '#core/rescale'
import { useCourse, useFigures } from '../../../course/course'
import { useKeys } from '../../../settings/keys'
import { PeopleList } from '../../../parts/PeopleList'
import { tickStep } from '../../../parts/ticks'
import { Vial } from '../../../parts/Vial'
import { counted, fixed, numeral, signed, today } from '../../../parts/format'
import { ChartOut } from '../../../parts/take-out/ChartOut'
import type { Compared, ComparedSection } from '../../../parts/compared'
import { NotesOn } from '../../../parts/NotesOn'
import { CarryPeople } from '../../../parts/CarryPeople'
import styles from '../compare.module.css'
import { ChartTable } from '../../../parts/ChartTable'

interface Props {
  compared: Compared
  section: ComparedSection
  /** A value inside the chosen bar; null lists those below the pass mark. */
  bar: number | null
  onBar: (value: number | null) => void
}

/** One section in depth: its bars, who is in one, and how it differs from the others. */
export function SectionCloseUp({ compared, section, bar, onBar }: Props) {
  const { current } = useCourse()
  const chart = useRef<HTMLDivElement>(null)
  const { from, top, passMark, unit, title } = compared
  const width = tickStep(top) / 2
  const { bins } = useMemo(
    () =>
      histogram(
        section.people.map((p) => p.value),
        { from, to: top, width },
      ),
    [section, from, top, width],
  )
  const at = bar === null ? -1 : bins.findIndex((b, i) => bar >= b.from && (bar < b.to || i === bins.length - 1))
  const move = (by: number) => {
    const next = bins[at < 0 ? (by > 0 ? 0 : bins.length - 1) : at + by]
    if (next) onBar((next.from + next.to) / 2)
  }
  useKeys([
    { key: 'ArrowRight', does: 'next bar: who is in it', run: () => move(1) },
    { key: 'ArrowLeft', does: 'bar before', run: () => move(-1) },
    { key: 'Escape', does: 'no bar: those below the pass mark', run: () => onBar(null) },
  ])
  const elsewhere = useMemo(() => new Map(current.students.map((s) => [s.studentId, percentOf(s)])), [current])
  const listed = (
    at >= 0 ? bins[at]!.members.map((i) => section.people[i]!) : passMark === null ? [] : section.people.filter((p) => p.value < passMark)
  ).sort((a, b) => a.value - b.value)
  const { lean } = section
  const wide = Math.max(6, 300 / bins.length)
  const { says } = section
  const heading =
    at >= 0
      ? `${counted(listed.length, 'student')} from ${numeral(bins[at]!.from)} to ${numeral(bins[at]!.to)}`
      : passMark === null
        ? 'Choose a bar'
        : `${listed.length === 0 ? 'Nobody' : listed.length} below the pass mark of ${numeral(passMark)}`
  return (
    <>
      <section>
        <h2>{section.name}</h2>
        {says && (
          <p className="mb-1">
            {title}: <b className={says.look ? 'ochre' : undefined}>{says.words}</b>
            {section.expected && `. Elsewhere its students reached ${fixed(section.expected.elsewhere)}%.`}
          </p>
        )}
        <Leans compared={compared} section={section} />
        <details className="small soft">
          <summary>The test figures</summary>
          {lean.difference === null ? 'nothing to compare yet' : `${signed(lean.difference, compared.decimals)} ${unit} against all others`}
          {lean.interval &&
            `, 95% ${signed(lean.interval[0], compared.decimals)} to ${signed(lean.interval[1], compared.decimals)} (Welch)`}
          {lean.pHolm !== null && `, ${lean.pHolm < 0.001 ? `p < ${numeral(0.001)}` : `p = ${fixed(lean.pHolm, 3)}`} after Holm`}
          {lean.g !== null && `; Hedges g ${signed(lean.g, 2)}`}
          {lean.delta !== null && `, Cliff δ ${signed(lean.delta, 2)}`}
        </details>
        <div ref={chart}>
          <ResponsiveContainer width="100%" height={120} initialDimension={{ width: 350, height: 120 }}>
            <BarChart
              data={bins.map((b) => ({ x: (b.from + b.to) / 2, n: b.count }))}
              margin={{ top: 14, right: 4, left: 4, bottom: 0 }}
              barCategoryGap={2}
              accessibilityLayer={false}
            >
              <XAxis
                type="number"
                dataKey="x"
                domain={[from, top]}
                ticks={bins
                  .filter((_, i) => i % 2 === 0)
                  .map((b) => b.from)
                  .concat(top)}
                tickFormatter={numeral}
                interval="preserveStartEnd"
                stroke="var(--ink)"
                tickLine={false}
              />
              <YAxis hide domain={[0, 'dataMax']} />
              {passMark !== null && <ReferenceLine x={passMark} stroke="var(--brick)" strokeDasharray="2 2" />}
              <Bar
                dataKey="n"
                isAnimationActive={false}
                label={{ position: 'top', fill: 'var(--soft-ink)', formatter: (n: unknown) => (n === 0 ? '' : String(n)) }}
                onClick={(_, i) => onBar((bins[i]!.from + bins[i]!.to) / 2)}
                shape={(p: { x?: number; y?: number; width?: number; height?: number; index?: number }) => (
                  <rect
                    x={(p.x ?? 0) + (p.width ?? 0) / 2 - wide / 2}
                    y={p.y}
                    width={wide}
                    height={Math.max(0, p.height ?? 0)}
                    fill={p.index === at ? 'var(--pine)' : 'var(--step-3)'}
                    stroke="var(--ink)"
                    strokeWidth={0.8}
                    style={{ cursor: 'pointer' }}
                    data-bar={p.index}
                  />
                )}
              />
            </BarChart>
          </ResponsiveContainer>
        </div>
        <ChartOut
          words={{ title: `${title}, ${section.name}`, under: `${counted(section.people.length, 'student')}, ${today()}` }}
          within={chart}
        />
        <ChartTable
          heads={[unit, 'students']}
          rows={() => bins.map((b) => [`${numeral(b.from)} to ${numeral(b.to)}`, String(b.members.length)])}
        />
      </section>
      <section aria-live="polite">
        <h2>{heading}</h2>
        <PeopleList
          people={listed.map((p) => ({
            studentId: p.id,
            figures: (
              <>
                <b className={`number ${passMark !== null && p.value < passMark ? 'brick' : ''}`}>{fixed(p.value, compared.decimals)}</b>
                <span className="soft number">course {fixed(elsewhere.get(p.id) ?? null)}</span>
              </>
            ),
          }))}
          empty={at >= 0 ? 'Nobody stands in this bar.' : 'Press → or choose a bar to see who is in it.'}
        />
        <CarryPeople title={`${section.name}: ${heading}`} people={listed} assessmentId={unit === 'marks' ? compared.subject : null} />
      </section>
      <NotesOn about={{ kind: 'section', id: section.id, assessmentId: unit === 'marks' ? compared.subject : null }} />
    </>
  )
}

/** The same lean told three ways: as marked, given other work, and of whoever teaches and marks it. */
function Leans({ compared, section }: Pick<Props, 'compared' | 'section'>) {
  const markers = useFigures('markers', compared.subject)
  const own = markers?.subject === compared.subject ? markers.markers.find((m) => m.name === section.teacher) : undefined
  const rows = [
    { words: 'as marked', lean: section.lean.difference, interval: section.lean.interval },
    ...(section.expected
      ? [
          {
            words: 'given their other work',
            lean: section.expected.againstOthers.difference,
            interval: section.expected.againstOthers.interval,
          },
        ]
      : []),
    ...(own && own.lean !== null ? [{ words: `${own.name}, over all scripts`, lean: own.lean, interval: own.interval }] : []),
  ]
  return (
    <table className={styles.leans}>
      <tbody>
        {rows.map((r) => (
          <tr key={r.words}>
            <td className="soft small">{r.words}</td>
            <td>
              <Vial
                name={`${section.name}, ${r.words},`}
                lean={r.lean}
                interval={r.interval}
                tolerance={compared.tolerance}
                unit={compared.unit}
                decimals={compared.decimals}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
