import { useRef } from 'react'
import type { Boundary } from '#core/grades'
import { apart } from '../parts/apart'
import { numeral } from '../parts/format'
import { useWidth } from '../parts/useWidth'
import styles from './student.module.css'

const EDGE = 8
const LINE = 24
const CHARACTER = 6.2

interface Props {
  boundaries: readonly Boundary[]
  lowest: number
  highest: number
  soFar: number
}

/** Where a course can still end: a span on a line of grades, with the bubble where it stands so far. */
export function SpanRuler({ boundaries, lowest, highest, soFar }: Props) {
  const box = useRef<HTMLDivElement>(null)
  const width = useWidth(box)
  const begins = boundaries.filter((b) => b.from > 0).toSorted((a, b) => a.from - b.from)
  const from = Math.max(0, Math.floor((Math.min(lowest, begins[0]?.from ?? 0) - 4) / 10) * 10)
  const to = Math.max(100, highest)
  const x = (percent: number) => EDGE + ((percent - from) / (to - from)) * Math.max(0, width - 2 * EDGE)
  const names = begins.map((b) => `${b.grade} ${numeral(b.from)}`)
  const middles = begins.map((b) => x(b.from))
  const places = apart(
    middles,
    names.map((n) => (n.length + 1) * CHARACTER),
    width,
  )
  const words = `So far ${numeral(soFar)}, ends between ${numeral(lowest)} and ${numeral(highest)}; ${begins.map((b) => `${b.grade} begins at ${numeral(b.from)}`).join(', ')}`
  return (
    <div ref={box}>
      <svg height={58} role="img" aria-label={words}>
        <line x1={0} x2={width} y1={LINE} y2={LINE} className={styles.line} />
        <rect x={x(lowest)} width={Math.max(2, x(highest) - x(lowest))} y={LINE - 4} height={8} className={styles.span} />
        {begins.map((b) => (
          <line key={b.grade} x1={x(b.from)} x2={x(b.from)} y1={LINE - 12} y2={LINE + 12} className={styles.bound} />
        ))}
        <ellipse cx={x(soFar)} cy={LINE} rx={9} ry={7} className="bubble" />
        {names.map((name, i) => (
          // Where the names do not fit side by side, the limits alone stand there.
          <text key={name} x={places ? places[i] : middles[i]} y={54} textAnchor="middle">
            {places ? name : numeral(begins[i]!.from)}
          </text>
        ))}
      </svg>
    </div>
  )
}
