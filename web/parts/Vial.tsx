import { fixed, signed } from './format'

interface VialProps {
  /** Who or what leans. */
  name: string
  /** Estimated deviation: + generous, − severe; null where it cannot be told. */
  lean: number | null
  interval: readonly [number, number] | null
  /** Leans up to this count as level: where the index lines stand. */
  tolerance: number
  unit?: string
  decimals?: number
  /** The figure beside it. */
  figure?: boolean
}

const W = 64
const H = 16
const MID = W / 2
/** Distance of the index lines from the middle. */
const LINE = 11
const END = 6

/** Our glyph for a lean: a capsule, two index lines for the tolerance, a bubble as wide as the uncertainty. */
export function Vial({ name, lean, interval, tolerance, unit = 'marks', decimals = 1, figure = true }: VialProps) {
  const level = lean !== null && Math.abs(lean) <= tolerance
  const words =
    lean === null
      ? `${name}: too little to tell a lean`
      : `${name} ${level ? 'is level' : 'leans'}: ${fixed(Math.abs(lean), decimals)} ${unit} ${lean >= 0 ? 'generous' : 'severe'}${
          interval ? `, 95% ${signed(interval[0], decimals)} to ${signed(interval[1], decimals)}` : ''
        }`
  const x = (v: number) => Math.min(W - END - 2, Math.max(END + 2, MID + (v / tolerance) * LINE))
  const spread = interval ? Math.min(14, Math.max(4, ((interval[1] - interval[0]) / 2 / tolerance) * LINE * 0.6)) : 4
  return (
    <span className={`vial ${lean === null ? 'unknown' : level ? 'level' : 'leaning'}`} title={words}>
      <svg width={W} height={H} viewBox={`0 0 ${W} ${H}`} role="img" aria-label={words}>
        <rect x="0.75" y="2.25" width={W - 1.5} height={H - 4.5} rx={(H - 4.5) / 2} className="glass" />
        {lean !== null && <ellipse cx={x(lean)} cy={H / 2} rx={spread} ry="3.6" className="bubble" />}
        <path d={`M${MID - LINE} 2.5v11M${MID + LINE} 2.5v11`} className="lines" />
      </svg>
      {figure && (
        <span className={`number ${interval && (interval[0] > 0 || interval[1] < 0) ? 'fw-semibold' : ''}`}>{signed(lean, decimals)}</span>
      )}
    </span>
  )
}
