import { Area, ComposedChart, ResponsiveContainer, XAxis, YAxis } from 'recharts'
import { useRef } from 'react'
import { Link } from 'react-router'
import type { Change } from '#core/trial'
import { useDecidedCourse } from '../../../course/course'
import { ChartOut } from '../../../parts/take-out/ChartOut'
import { counted, fixed, today } from '../../../parts/format'
import type { WeightsFigures } from './figures'
import { ChartTable } from '../../../parts/ChartTable'
import { range, sum } from 'd3-array'

type Point = Props['chosen']['own'][number]

interface Props {
  figures: WeightsFigures
  chosen: NonNullable<WeightsFigures['chosen']>
}

/** How much of two curves lies in each ten percent. */
const sharesInTens = (own: readonly Point[], rest: readonly Point[]): string[][] =>
  range(0, 100, 10).map((from) => [
    `${from} to ${from + 10}`,
    ...[own, rest].map((curve) => {
      const all = sum(curve, (p) => p.y)
      return all === 0 ? '–' : `${fixed((100 * sum(curve, (p) => (p.x >= from && (p.x < from + 10 || from === 90) ? p.y : 0))) / all)}%`
    }),
  ])

const percent = (share: number | null) => (share === null ? '–' : `${fixed(share * 100)}%`)

/** Why an assessment decides what it decides, and what could be done about it, each as a trial. */
export function WeightCloseUp({ figures, chosen: { row, together, decidesTogether, shouldTogether, own, rest, restSd, offers } }: Props) {
  const { id, propose, mayDecide } = useDecidedCourse()
  const chart = useRef<HTMLDivElement>(null)
  const many = together.length > 1
  return (
    <>
      <section>
        <h2>
          {row.title} decides {percent(row.decides)}
        </h2>
        <p className="mb-1">
          {row.should === null ? 'It is a bonus.' : `The plan says ${percent(row.should)}.`}{' '}
          {many && `The ${together.length} that count like it decide ${percent(decidesTogether)} of ${percent(shouldTogether)} together. `}
          {reason(row, restSd)}
        </p>
        <div ref={chart} role="img" aria-label={`Marks of ${row.title} beside those of other work`}>
          <ResponsiveContainer width="100%" height={130} initialDimension={{ width: 350, height: 130 }}>
            <ComposedChart margin={{ top: 4, right: 4, bottom: 0, left: 4 }} accessibilityLayer={false}>
              <XAxis type="number" dataKey="x" domain={[0, 100]} ticks={[0, 25, 50, 75, 100]} stroke="var(--ink)" tickLine={false} />
              <YAxis hide />
              <Area
                data={rest}
                dataKey="y"
                type="monotone"
                stroke="var(--soft-ink)"
                fill="var(--sand)"
                isAnimationActive={false}
                activeDot={false}
              />
              <Area
                data={own}
                dataKey="y"
                type="monotone"
                stroke="var(--ink)"
                fill="var(--bubble)"
                fillOpacity={0.5}
                isAnimationActive={false}
                activeDot={false}
              />
            </ComposedChart>
          </ResponsiveContainer>
        </div>
        <p className="small soft mb-0">
          In percent of what each is out of; green: {many ? `the ${together.length} of its component` : row.title}, sand: all other work.
        </p>
        <ChartOut
          words={{ title: `${row.title} beside other work`, under: `${counted(figures.finals, 'final')}, ${today()}` }}
          within={chart}
        />
        <ChartTable heads={['percent', `share, ${row.title}`, 'share, other work']} rows={() => sharesInTens(own, rest)} />
      </section>
      {offers.length > 0 && (
        <section>
          <h2>What could be done</h2>
          <table className="grid">
            <tbody>
              {offers.map((o) => (
                <tr key={o.words}>
                  <td>
                    <button className="row-name" disabled={!mayDecide} onClick={() => propose(named(o.changes), o.words)}>
                      {o.words}
                    </button>
                    {o.ends > 0 && (
                      <span className="ochre small d-block">{counted(o.ends, 'mark')} more would meet at the top or at nothing</span>
                    )}
                  </td>
                  <td className="number soft text-nowrap">decides {percent(o.decides)}</td>
                  <td className="number text-nowrap">{counted(o.moves, 'moves', 'move')}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="small soft mt-1">Each opens as a trial. Or leave it: the plan may be meant so.</p>
        </section>
      )}
      {offers.length === 0 && row.off && (
        <p className="small soft">
          No other spread or weight would bring it nearer: its marks go their own way, or it is often the one that is dropped.
        </p>
      )}
      {figures.odd.length > 0 && (
        <section>
          <h2>Sections that carry something else</h2>
          {figures.odd.map((s) => (
            <p key={s.sectionId} className="mb-1">
              <b>{s.name}</b>
              {s.lacks.length > 0 && ` has no ${s.lacks.join(', ')}`}
              {s.alone.length > 0 && `${s.lacks.length > 0 ? ' and' : ''} has ${s.alone.join(', ')}, which most have not`}
              {s.differs.length > 0 && `, so ${s.differs.map((d) => `${d.title} carries ${percent(d.share)}`).join(', ')}`}.{' '}
              <Link to={`/courses/${id}/set-out/placements`}>Set it there</Link>
            </p>
          ))}
        </section>
      )}
    </>
  )
}

/** Offers come with ids that tell them apart; tried, each adjustment is one of its own. */
const named = (changes: readonly Change[]): Change[] =>
  changes.map((c) => (c.kind === 'adjust' ? { ...c, adjustment: { ...c.adjustment, id: crypto.randomUUID() } } : c))

function reason({ sd, off, decides, should }: WeightsFigures['rows'][number], restSd: number | null): string {
  if (!off || sd === null || restSd === null || decides === null || should === null) return 'That is about what it should.'
  const figures = `(sd ${fixed(sd)} of 100, other work ${fixed(restSd)})`
  return decides > should
    ? `Its marks differ more, or go more with the rest, than those of other work ${figures}: it sorts students more than its weight.`
    : `Its marks hardly differ, or go their own way ${figures}: it sorts students less than its weight.`
}
