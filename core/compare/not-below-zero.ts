import { cholesky, solve } from './positive-definite'

/**
 * Least squares with nothing below 0: the x ≥ 0 that makes xᵀAx − 2bᵀx least.
 * @param a symmetric, row by row, as large as b squared
 * @returns null where A is not positive definite, so that no x is the one
 * Source: Lawson & Hanson 1974, Solving Least Squares Problems, chapter 23.
 */
export function notBelowZero(a: Float64Array, b: Float64Array): Float64Array | null {
  const size = b.length
  const every = Array.from(b, (_, i) => i)
  const plain = solveWithin(a, b, every)
  if (plain === null || plain.every((x) => x >= 0)) return plain
  const x = new Float64Array(size)
  const above: number[] = []
  const slope = (i: number) => b[i]! - every.reduce((s, j) => s + a[i * size + j]! * x[j]!, 0)
  for (;;) {
    const [best] = every.filter((i) => !above.includes(i)).sort((i, j) => slope(j) - slope(i))
    if (best === undefined || slope(best) <= 1e-10 * Math.abs(b[best]!)) return x
    above.push(best)
    for (;;) {
      const next = solveWithin(a, b, above)
      if (next === null) return null
      const far = above.map((i, at) => (next[at]! > 0 ? 1 : x[i]! / (x[i]! - next[at]!)))
      const step = Math.min(...far)
      above.forEach((i, at) => (x[i]! += step * (next[at]! - x[i]!)))
      if (step === 1) break
      // What has come down to 0 stays there until its slope says otherwise.
      for (let at = above.length - 1; at >= 0; at--)
        if (far[at] === step) {
          x[above[at]!] = 0
          above.splice(at, 1)
        }
    }
  }
}

/** A·x = b for some places, the others being 0. */
function solveWithin(a: Float64Array, b: Float64Array, places: readonly number[]): Float64Array | null {
  const [size, n] = [b.length, places.length]
  const part = new Float64Array(n * n)
  places.forEach((i, r) => places.forEach((j, c) => (part[r * n + c] = a[i * size + j]!)))
  const l = cholesky(part, n)
  return (
    l &&
    solve(
      l,
      n,
      Float64Array.from(places, (i) => b[i]!),
    )
  )
}
