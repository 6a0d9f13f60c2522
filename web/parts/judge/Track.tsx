import { numeral } from '../format'
import { evenly, type Stop } from './evenly'
import styles from './judge.module.css'

const W = 560
const H = 30
const EDGE = 12
const LINE = 19

export interface Compared {
  points: number
  /** Whose it is, for those who cannot see it. */
  whose: string
}

/** A criterion's ruler at true distance, or evenly while points are hidden: the levels as stops, the bubble where the reading stands, a long tick where another does. */
export function Track({
  stops: given,
  longest: shared,
  points,
  compared,
  hidePoints,
  descending = false,
  sign = '',
}: {
  stops: Stop[]
  longest: number
  points: number | undefined
  compared?: Compared | undefined
  hidePoints: boolean
  /** The best level stands on the left, as it does beneath. */
  descending?: boolean
  sign?: string
}) {
  const even = hidePoints ? evenly(given) : null
  const stops = even?.stops ?? given
  const longest = even ? Math.max(1, even.end) : shared
  const place = even?.place ?? ((p: number) => p)
  const end = Math.max(...stops.map((s) => s.to ?? s.points), 0)
  const x = (v: number) => EDGE + ((descending ? end - v : v) / longest) * (W - 2 * EDGE)
  return (
    <svg className={`ruler ${styles.track}`} viewBox={`0 0 ${W} ${H}`} width="100%" aria-hidden>
      <line x1={x(0)} x2={x(end)} y1={LINE} y2={LINE} />
      {stops.map((s, i) => (
        <g key={i}>
          {s.to !== undefined && s.to > s.points && <line className="range" x1={x(s.points)} x2={x(s.to)} y1={LINE} y2={LINE} />}
          <line x1={x(s.points)} x2={x(s.points)} y1={LINE - 5} y2={LINE + 5} strokeWidth="1.6" />
          {!hidePoints && (
            <text x={x(s.points)} y="10" textAnchor="middle" className="words">
              {s.points === 0 ? '' : sign}
              {numeral(s.points)}
            </text>
          )}
        </g>
      ))}
      {points !== undefined && <ellipse cx={x(place(points))} cy={LINE} rx="9" ry="5.5" className={styles.bubbleOn} />}
      {compared && (
        <line x1={x(place(compared.points))} x2={x(place(compared.points))} y1={LINE - 6} y2={LINE + 10} className={styles.compared} />
      )}
    </svg>
  )
}
