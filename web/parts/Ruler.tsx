import { numeral } from './format'

interface RulerProps {
  title: string
  stops: { points: number; to?: number | undefined; words: string }[]
  /** End of the longest ruler beside it, so that points are at true distance on all of them. */
  longest: number
  /** Figures above the stops, e.g. −4 for a penalty. */
  sign?: 1 | -1
  /** The best level stands on the left. */
  descending?: boolean | undefined
}

const W = 820
const LEFT = 24
const RIGHT = 130
const H = 66

/** A criterion as a ruler: its levels are stops at true distance, with their words beneath. */
export function Ruler({ title, stops: given, longest, sign = 1, descending = false }: RulerProps) {
  const stops = descending ? given.toReversed() : given
  const end = Math.max(...stops.map((s) => s.to ?? s.points))
  const x = (v: number) => LEFT + ((descending ? end - v : v) / longest) * (W - LEFT - RIGHT)
  const room = (i: number) => (i < stops.length - 1 ? x(stops[i + 1]!.points) - x(stops[i]!.points) : W - x(stops[i]!.points))
  const words = stops
    .map((s) => `${numeral(sign * s.points)}${s.to && s.to !== s.points ? ` to ${numeral(s.to)}` : ''} ${s.words}`)
    .join('; ')
  return (
    <svg className="ruler" viewBox={`0 0 ${W} ${H}`} width="100%" style={{ maxWidth: W }} role="img" aria-label={`${title}: ${words}`}>
      <line x1={x(0)} x2={x(end)} y1="26" y2="26" />
      {stops.map((s, i) => (
        <g key={s.points}>
          {s.to !== undefined && s.to > s.points && <line className="range" x1={x(s.points)} x2={x(s.to)} y1="26" y2="26" />}
          <line x1={x(s.points)} x2={x(s.points)} y1="20" y2="32" strokeWidth="1.6" />
          <text x={x(s.points)} y="14" textAnchor="middle" className="figure">
            {numeral(sign * s.points)}
          </text>
          <foreignObject x={x(s.points) - 3} y="35" width={Math.max(34, room(i) - 4)} height="31">
            <div className="soft" style={{ fontSize: 12.5, lineHeight: '15px' }}>
              {s.words}
            </div>
          </foreignObject>
        </g>
      ))}
    </svg>
  )
}
