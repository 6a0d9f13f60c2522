import { cholesky, logDeterminant, solve } from './positive-definite'
import type { Sums } from './reading-sums'
import { smallestOf } from './smallest-of'

/** Ratios are looked for by their logarithms, so that large ones are told apart as well as small ones; between these. */
const LEAST = Math.log(1e-4)
const MOST = Math.log(1e7)
/** Logarithms this near are the same. */
const SAME = 1e-6
const MOST_STEPS = 40
/** Steps by the slope: how many at most, the longest one (in logarithms), and how far apart the first two places are. */
const LAST_STEPS = 8
const FARTHEST = 0.5
const APART = 1e-3
/** What is left beside this part of the marks' own squares is rounding. */
const ROUNDING = 1e-9
/** Columns up to which looking everywhere takes no time; few readings may also have more than one valley. */
const FEW = 40

export interface Fit {
  /** Variance of scripts over that of the rest; null where the readings do not tell them apart. */
  ratio: number | null
  /** Of the rest. */
  variance: number
  /** Means of the markers, then the criteria against the first. */
  b: Float64Array
  l: Float64Array
}

export interface Solved extends Fit {
  deviance: number
  /** The logarithm of the determinant of XᵀV⁻¹X, but for the variance. */
  logA: number
}

/** The fixed effects and what is left, where scripts vary so many times as much as the rest. */
function solvedAt(ratio: number, { n, width, xx, xy, yy, bySize }: Sums): Solved | null {
  const a = xx.slice()
  const right = xy.slice()
  let [rest, logV] = [yy, 0]
  for (const [size, of] of bySize) {
    const c = ratio / (1 + size * ratio)
    logV += of.scripts * Math.log1p(size * ratio)
    rest -= c * of.ss
    for (let i = 0; i < width; i++) for (let at = i * width; at <= i * width + i; at++) a[at]! -= c * of.xx[at]!
    for (let i = 0; i < width; i++) right[i]! -= c * of.xs[i]!
  }
  const l = cholesky(a, width)
  if (!l) return null
  const b = solve(l, width, right)
  for (let i = 0; i < width; i++) rest -= b[i]! * right[i]!
  const variance = Math.max(rest, 0) / (n - width)
  const logA = logDeterminant(l, width)
  return { ratio, variance, b, l, logA, deviance: (n - width) * Math.log(Math.max(variance, Number.MIN_VALUE)) + logV + logA }
}

/**
 * Both variances and the fixed effects.
 * @returns null where nothing can be told; a ratio of null where no script was read twice
 */
export function fitted(sums: Sums): Fit | null {
  const { n, width, bySize } = sums
  const repeated = [...bySize.keys()].some((size) => size > 1)
  if (n <= width || !repeated) {
    const alone = solvedAt(0, sums)
    return alone && { ...alone, ratio: null }
  }
  const inside = (width > FEW ? inTurns(sums) : null) ?? searched(sums)
  // A valley far from nothing is deeper than nothing.
  if (inside && inside.ratio! > 0.05) return polished(inside, sums)
  const none = solvedAt(0, sums)
  return none && (!inside || none.deviance <= inside.deviance) ? none : inside
}

/** How the deviance changes with the logarithm of the ratio; for the fixed effects of that ratio, which do not count for it. */
function slopeAt({ ratio, variance, b, l }: Solved, { bySize }: Sums): number {
  const width = b.length
  let slope = 0
  const inside = new Float64Array(width * width)
  for (const [size, of] of bySize) {
    const c = (1 + size * ratio!) ** -2
    slope += (of.scripts * size) / (1 + size * ratio!) - (c * (of.ss - 2 * dot(b, of.xs) + squared(b, of.xx))) / variance
    for (let i = 0; i < width; i++) for (let j = 0; j <= i; j++) inside[i * width + j]! += c * of.xx[i * width + j]!
  }
  // tr((L·Lᵀ)⁻¹·C), a column of C at a time.
  const column = new Float64Array(width)
  for (let j = 0; j < width; j++) {
    for (let i = 0; i < width; i++) column[i] = i < j ? inside[j * width + i]! : inside[i * width + j]!
    slope -= solve(l, width, column)[j]!
  }
  return ratio! * slope
}

/**
 * The last steps go by the slope: the deviance itself is so flat at its bottom that rounding hides the place.
 * @returns what was given where the slope does not come nearer to 0
 */
function polished(found: Solved, sums: Sums): Solved {
  // Readers who never differ leave nothing, and nothing has no slope.
  if (found.variance * sums.n < ROUNDING * sums.yy) return found
  let [before, best] = [solvedAt(found.ratio! * (1 + APART), sums), found]
  let [g0, g1] = [before && slopeAt(before, sums), slopeAt(found, sums)]
  for (let step = 0; step < LAST_STEPS && before && g0 !== null && g0 !== g1; step++) {
    const by = (-g1 * Math.log(best.ratio! / before.ratio!)) / (g1 - g0)
    const to = best.ratio! * Math.exp(Math.min(FARTHEST, Math.max(-FARTHEST, by)))
    const next = Math.log(to) < MOST ? solvedAt(to, sums) : null
    const g = next && slopeAt(next, sums)
    if (!next || !(Math.abs(g!) < Math.abs(g1))) break
    ;[before, g0, best, g1] = [best, g1, next, g!]
  }
  return best
}

/**
 * The fixed effects for a ratio, then the ratio that is likeliest for those, and so on: what a ratio does while they stay costs next to
 * nothing, so that the markers are solved for a few times and not at every look. How log |XᵀV⁻¹X| changes is taken from the last two.
 * @returns null where it does not settle
 */
export function inTurns(sums: Sums): Solved | null {
  const { n, width, bySize } = sums
  let at = 0
  let solved = solvedAt(1, sums)
  let slope = 0
  for (let step = 0; solved && step < MOST_STEPS; step++) {
    const { b } = solved
    const left = sums.yy - 2 * dot(b, sums.xy) + squared(b, sums.xx)
    const sizes = [...bySize].map(([size, of]) => ({
      size,
      scripts: of.scripts,
      between: of.ss - 2 * dot(b, of.xs) + squared(b, of.xx),
    }))
    const by = slope
    const next = smallestOf(
      (x) => {
        const ratio = Math.exp(x)
        let [rest, logV] = [left, 0]
        for (const { size, scripts, between } of sizes) {
          rest -= (ratio / (1 + size * ratio)) * between
          logV += scripts * Math.log1p(size * ratio)
        }
        return (n - width) * Math.log(Math.max(rest, Number.MIN_VALUE)) + logV + by * x
      },
      LEAST,
      MOST,
    )
    if (Math.abs(next - at) <= SAME) return solved
    const after = solvedAt(Math.exp(next), sums)
    if (after && Math.abs(next - at) > 1e-7) slope = (after.logA - solved.logA) / (next - at)
    at = next
    solved = after
  }
  return null
}

/** The same by looking everywhere. */
export function searched(sums: Sums): Solved | null {
  const at = (log: number) => solvedAt(Math.exp(log), sums)
  return at(smallestOf((log) => at(log)?.deviance ?? Infinity, LEAST, MOST))
}

const dot = (a: Float64Array, b: Float64Array): number => a.reduce((s, x, i) => s + x * b[i]!, 0)

/** bᵀ·A·b, of whose A the lower triangle is there. */
function squared(b: Float64Array, a: Float64Array): number {
  const width = b.length
  let sum = 0
  for (let i = 0; i < width; i++) {
    let row = 0
    for (let j = 0; j < i; j++) row += a[i * width + j]! * b[j]!
    sum += b[i]! * (2 * row + a[i * width + i]! * b[i]!)
  }
  return sum
}
