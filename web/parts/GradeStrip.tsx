import { area, curveStep, line } from 'd3-shape'
import { useMemo, useRef } from 'react'
import type { Boundary } from '#core/grades'
import { apart } from './apart'
import { columnCounts, stackDots, type Column, type Dot } from './dots'
import type { StripPeople } from './strip-people'
import { useWidth } from './useWidth'
import styles from './grade-strip.module.css'

const COLUMN = 1
const H = 47
/** Kept free above the tallest. */
const TOP = 4
/** Of the names and counts of grades, in pixels, on the wide side. */
const CHARACTER = 6.6
/** Above so many, people are drawn as columns and not as a dot each. */
const DOTS = 800

interface Props {
  people: StripPeople
  /** Percents of the state that it is held against; null for none. */
  before: Float64Array | null
  boundaries: readonly Boundary[]
  counts: readonly { grade: string; count: number }[]
}

/** Course percents on one axis, a dot a person, with where grades begin and how many have each; an earlier state as an outline. */
export function GradeStrip({ people, before: earlier, boundaries, counts }: Props) {
  const drawn = useMemo(() => {
    const { ids, value, final } = people
    const low = value.reduce((m, p) => Math.min(m, p), 100)
    const from = Math.max(0, Math.min(40, Math.floor(low / 10) * 10))
    const to = value.reduce((m, p) => Math.max(m, p), 100)
    const many = ids.length > DOTS
    const isFinal = new Set(many ? [] : ids.filter((_, i) => final[i] === 1))
    const dots = many
      ? []
      : stackDots(
          ids.map((id, i) => ({ id, value: value[i]! })),
          COLUMN,
        )
    // Who stands at the very top belongs to the last column.
    const columns = (list: Float64Array) =>
      columnCounts(
        list.map((p) => Math.min(p, to - COLUMN / 2)),
        COLUMN,
        from,
        to,
      )
    const density = many ? { all: columns(value), final: columns(value.filter((_, i) => final[i] === 1)) } : null
    const before = earlier ? columnCounts(earlier, COLUMN, from, to) : []
    const top = Math.max(12, ...dots.map((d) => d.y), ...before.map((b) => b.n), ...(density?.all.map((c) => c.n) ?? []))
    return { density, from, to, top, before, solid: dots.filter((d) => isFinal.has(d.id)), hollow: dots.filter((d) => !isFinal.has(d.id)) }
  }, [people, earlier])
  const bounds = [...boundaries].sort((a, b) => a.from - b.from)
  const strip = useRef<HTMLDivElement>(null)
  const room = useWidth(strip)
  const part = (percent: number) => (percent - drawn.from) / (drawn.to - drawn.from)
  const x = (percent: number) => part(percent) * room
  const y = (count: number) => H - ((H - TOP) * count) / (drawn.top + 1)
  const named = bounds.flatMap((b, i) => {
    const low = Math.max(drawn.from, b.from)
    const high = Math.min(drawn.to, bounds[i + 1]?.from ?? drawn.to)
    if (high <= low) return []
    const count = counts.find((c) => c.grade === b.grade)?.count ?? 0
    return [{ grade: b.grade, count, middle: part((low + high) / 2) }]
  })
  // Where their names do not fit side by side the counts alone stand there.
  const places = apart(
    named.map((g) => g.middle * room),
    named.map((g) => (g.grade.length + String(g.count).length + 2) * CHARACTER),
    room,
  )
  return (
    <div
      ref={strip}
      className={styles.strip}
      role="img"
      aria-label={`Final percents: ${counts.map((c) => `${c.grade} ${c.count}`).join(', ')}`}
      style={{ position: 'relative' }}
    >
      <svg width={room} height={H} overflow="hidden" aria-hidden>
        <line x2={room} y1={H - 0.5} y2={H - 0.5} stroke="var(--ink)" />
        {bounds.slice(1).map((b) => (
          <line key={b.grade} x1={x(b.from)} x2={x(b.from)} y1={TOP} y2={H} stroke="var(--pine)" strokeWidth={1.5} />
        ))}
        <Shapes {...drawn} x={x} y={y} earlier={earlier !== null} />
      </svg>
      {named.map((g, i) => (
        <span
          key={g.grade}
          className={`small ${styles.count}`}
          title={g.grade}
          style={{ left: places ? `${(100 * places[i]!) / room}%` : `${100 * g.middle}%` }}
        >
          {places && g.grade} <b>{g.count}</b>
        </span>
      ))}
    </div>
  )
}

interface Drawn {
  density: { all: Column[]; final: Column[] } | null
  before: Column[]
  solid: Dot[]
  hollow: Dot[]
  top: number
  x: (percent: number) => number
  y: (people: number) => number
  earlier: boolean
}

/** People and the earlier state, a path each: they are drawn anew at every step anywhere, which hundreds of elements would be waited for. */
function Shapes({ density, before, solid, hollow, top, x, y, earlier }: Drawn) {
  const radius = Math.min(1.7, 40 / top / 2)
  const place = (c: Column) => x(c.x)
  const height = (c: Column) => y(c.n)
  const ring = (d: Dot) =>
    `M${x(d.x) - radius} ${y(d.y)}a${radius} ${radius} 0 1 0 ${2 * radius} 0a${radius} ${radius} 0 1 0 ${-2 * radius} 0`
  return (
    <>
      {density ? (
        <>
          <path d={line(place, height).curve(curveStep)(density.all)!} fill="none" stroke="var(--soft-ink)" strokeWidth={0.8} />
          <path d={area(place, y(0), height).curve(curveStep)(density.final)!} fill="var(--ink)" />
        </>
      ) : (
        <>
          <path d={hollow.map(ring).join('')} fill="none" stroke="var(--soft-ink)" strokeWidth={0.8} />
          <path d={solid.map(ring).join('')} fill="var(--ink)" />
        </>
      )}
      {earlier && <path d={line(place, height)(before)!} fill="none" stroke="var(--pine)" strokeDasharray="3 2" />}
    </>
  )
}
