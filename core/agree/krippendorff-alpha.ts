import { resampledInterval, type Draws } from '../compare/resampled'

/** How much two values differ: not at all or fully, by their order, or by their distance. */
export type AlphaLevel = 'nominal' | 'ordinal' | 'interval'

export interface Alpha {
  /** 1 is perfect, 0 what chance gives; null where nothing can be paired or all values are one and the same. */
  alpha: number | null
  /** Units with two values or more, and how many values those have. */
  units: number
  values: number
}

/** Squared difference of two of the values that occur, by their places in order. */
type Differs = (a: number, b: number) => number

/** @param counts how often each value occurs among those that can be paired */
function differsBy(level: AlphaLevel, values: readonly number[], counts: readonly number[]): Differs {
  if (level === 'nominal') return (a, b) => (a === b ? 0 : 1)
  if (level === 'interval') return (a, b) => (values[a]! - values[b]!) ** 2
  // Ranks: from the middle of one value's occurrences to the middle of the other's.
  let below = 0
  const middle = counts.map((n) => (below += n) - n / 2)
  return (a, b) => (middle[a]! - middle[b]!) ** 2
}

/**
 * Reliability of any number of markers who need not all have read every script.
 * @param units the values given to each unit, in any order; a gap is left out
 * @returns alpha, and of how much it was reckoned
 * Source: Krippendorff 2011, Computing Krippendorff's Alpha-Reliability.
 */
export function krippendorffAlpha(units: readonly (readonly number[])[], level: AlphaLevel): Alpha {
  const paired = units.filter((u) => u.length > 1)
  const n = paired.reduce((s, u) => s + u.length, 0)
  const said = { units: paired.length, values: n }
  const values = [...new Set(paired.flat())].sort((a, b) => a - b)
  if (values.length < 2) return { alpha: null, ...said }
  const place = new Map(values.map((v, i) => [v, i]))
  const counts = values.map(() => 0)
  for (const u of paired) for (const v of u) counts[place.get(v)!]!++
  const differs = differsBy(level, values, counts)
  let observed = 0
  for (const u of paired) {
    let within = 0
    for (let i = 1; i < u.length; i++) for (let j = 0; j < i; j++) within += differs(place.get(u[i]!)!, place.get(u[j]!)!)
    observed += (2 * within) / (u.length - 1)
  }
  let expected = 0
  for (let a = 1; a < values.length; a++) for (let b = 0; b < a; b++) expected += 2 * counts[a]! * counts[b]! * differs(a, b)
  return { alpha: 1 - ((n - 1) * observed) / expected, ...said }
}

/**
 * How far alpha may be off by the units that happened to be read: the middle 95% of what samples of them with repetition give.
 * @returns null where alpha is not defined in nearly all of them
 */
export function alphaInterval(units: readonly (readonly number[])[], level: AlphaLevel, draws: Draws): [low: number, high: number] | null {
  const paired = units.filter((u) => u.length > 1)
  if (paired.length < 2) return null
  const alphaOf =
    level === 'interval'
      ? intervalAlphas(paired)
      : (drawn: Int32Array) =>
          krippendorffAlpha(
            Array.from(drawn, (i) => paired[i]!),
            level,
          ).alpha
  return resampledInterval(paired.length, alphaOf, draws)
}

/**
 * Alphas of samples of the same units by their distances: what a unit adds does not depend on the others, so that each sample costs
 * one pass over its units.
 */
function intervalAlphas(units: readonly (readonly number[])[]): (drawn: Int32Array) => number | null {
  const sums = units.map((u) => {
    const sum = u.reduce((s, v) => s + v, 0)
    const squares = u.reduce((s, v) => s + v * v, 0)
    // Σ (v − w)² over all pairs, once each way.
    return { n: u.length, sum, squares, within: (2 * (u.length * squares - sum * sum)) / (u.length - 1) }
  })
  return (drawn) => {
    let [n, sum, squares, observed] = [0, 0, 0, 0]
    for (const i of drawn) {
      const u = sums[i]!
      n += u.n
      sum += u.sum
      squares += u.squares
      observed += u.within
    }
    const expected = 2 * (n * squares - sum * sum)
    return expected > EVEN * n * squares ? 1 - ((n - 1) * observed) / expected : null
  }
}

/** Below this share of the squares all values are one and the same, but for rounding. */
const EVEN = 1e-12
