import { describe } from './describe'

/**
 * A smoothed distribution for drawing: Gaussian kernel with Silverman's rule of thumb (1986, eq. 3.31).
 * @returns heights at `points` evenly spaced places from `from` to `to`; all 0 for no values
 */
export function density(
  values: readonly number[],
  { from, to, points }: { from: number; to: number; points: number },
): { x: number; y: number }[] {
  const d = describe(values)
  const places = Array.from({ length: points }, (_, i) => from + ((to - from) * i) / (points - 1))
  if (d.n === 0) return places.map((x) => ({ x, y: 0 }))
  const iqr = (d.q3! - d.q1!) / 1.34
  const spread = Math.min(d.sd || Infinity, iqr || Infinity)
  const width = Number.isFinite(spread) ? 0.9 * spread * d.n ** -0.2 : (to - from) / 50
  const scale = 1 / (d.n * width * Math.sqrt(2 * Math.PI))
  return places.map((x) => ({ x, y: scale * values.reduce((s, v) => s + Math.exp(-(((x - v) / width) ** 2) / 2), 0) }))
}
