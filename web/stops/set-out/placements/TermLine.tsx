import { daysBetween, dayInWeek, teachingWeek } from '#core/roll'
import type { Plan } from '#contract'
import { counted, shownDay } from '../../../parts/format'
import { spotKey, type Placed } from './edits'
import { releaseWords } from './ReleaseChoice'

const WIDTH = 352
const HEIGHT = 74
const BASE = 50
const EDGE = 8

/** One assessment over the term: a dot for every section on the day it is due there, weeks as ticks. */
export function TermLine({ plan, placed, at, section }: { plan: Plan; placed: Map<string, Placed>; at: number; section: number | null }) {
  const assessment = plan.assessments[at]
  if (!assessment) return null
  const { firstDay, lastDay } = plan.head
  const own = plan.sections.flatMap((s, i) => {
    const p = placed.get(spotKey(at, i))
    return p ? [{ i, name: s.name, ...p }] : []
  })
  const days = own.flatMap((p) => p.due ?? []).sort()
  const low = [firstDay, ...days].sort()[0]!
  const high = [lastDay, ...days].sort().at(-1)!
  const span = Math.max(1, daysBetween(low, high))
  const x = (day: string) => EDGE + (daysBetween(low, day) / span) * (WIDTH - 2 * EDGE)
  const stack = new Map<string, number>()
  const weeks = Array.from({ length: teachingWeek(plan.head, lastDay) }, (_, i) => i + 1)
  const single = section === null ? null : own.find((p) => p.i === section)
  return (
    <section>
      <h2>{assessment.title}</h2>
      <p className="soft mb-0">
        {own.length === 0
          ? 'set for no section'
          : `set for ${own.length === plan.sections.length ? 'all ' : ''}${counted(own.length, 'section')}${
              days.length > 0
                ? `, due ${shownDay(days[0]!, 'd MMM')}${days[0] === days.at(-1) ? '' : ` to ${shownDay(days.at(-1)!, 'd MMM')}`}`
                : ''
            }`}
        {single && `; ${single.name} sees the result ${releaseWords(single.release)}`}
      </p>
      <svg
        width="100%"
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="img"
        aria-label={`Due days of ${assessment.title} over the term: ${days.length === 0 ? 'none' : `${days[0]} to ${days.at(-1)}`}`}
      >
        <line x1={x(firstDay)} x2={x(lastDay)} y1={BASE} y2={BASE} stroke="var(--ink)" />
        {weeks.map((w) => {
          const day = dayInWeek(plan.head, w, 1)
          const at = x(day < low ? low : day)
          return (
            <g key={w}>
              <line x1={at} x2={at} y1={BASE} y2={BASE + 4} stroke="var(--ink)" />
              {(w === 1 || w % 3 === 0) && (
                <text x={at} y={BASE + 18} fontSize="11" textAnchor="middle" fill="var(--soft-ink)">
                  w{w}
                </text>
              )}
            </g>
          )
        })}
        {own.map((p) => {
          if (p.due === null) return null
          const n = stack.get(p.due) ?? 0
          stack.set(p.due, n + 1)
          if (n > 9) return null
          const outside = p.due < firstDay || p.due > lastDay
          return (
            <circle
              key={p.i}
              cx={x(p.due)}
              cy={BASE - 5 - n * 4.6}
              r={p.i === section ? 3.6 : 2.3}
              fill={outside ? 'var(--ochre)' : p.i === section ? 'var(--pine)' : 'var(--ink)'}
            >
              <title>{`${p.name}, ${p.due}`}</title>
            </circle>
          )
        })}
      </svg>
    </section>
  )
}
