import { quantile } from './describe'
import { seeded } from '../share/seeded'

/** How samples are drawn. */
export interface Draws {
  seed: number
  /** How many samples. */
  draws: number
}

type Interval = [low: number, high: number]

/**
 * The middle 95% of what figures come to in samples of the same size, drawn with repetition (percentile bootstrap); all figures of the
 * same samples.
 * @param n how many there are to draw from
 * @param many how many figures
 * @param figures of the drawn places, which are the same list every time; null where one is not defined
 * @returns for each figure null where it is not defined in nearly all samples
 * Source: Efron & Tibshirani 1993, An Introduction to the Bootstrap, chapter 13.
 */
export function resampledIntervals(
  n: number,
  many: number,
  figures: (drawn: Int32Array) => readonly (number | null)[],
  { seed, draws }: Draws,
): (Interval | null)[] {
  const random = seeded(seed)
  const found = Array.from({ length: many }, (): number[] => [])
  const drawn = new Int32Array(n)
  for (let d = 0; d < draws; d++) {
    for (let i = 0; i < n; i++) drawn[i] = random.below(n)
    figures(drawn).forEach((x, k) => x !== null && found[k]!.push(x))
  }
  return found.map((values) => {
    if (draws === 0 || values.length < draws * 0.9) return null
    values.sort((a, b) => a - b)
    return [quantile(values, 0.025)!, quantile(values, 0.975)!]
  })
}

/** The same of one figure. */
export const resampledInterval = (n: number, figure: (drawn: Int32Array) => number | null, draws: Draws): Interval | null =>
  resampledIntervals(n, 1, (drawn) => [figure(drawn)], draws)[0]!

/** Different values in their order, and how often each stands; so often a sample of them is counted in one pass. */
export class Distinct {
  readonly values: number[] = []
  readonly counts: Int32Array
  private readonly placeOf: Int32Array

  /** @param sorted in either order */
  constructor(sorted: readonly number[]) {
    this.placeOf = Int32Array.from(sorted, (x, i) => {
      if (i === 0 || x !== sorted[i - 1]) this.values.push(x)
      return this.values.length - 1
    })
    this.counts = new Int32Array(this.values.length)
    for (const at of this.placeOf) this.counts[at]!++
  }

  /** How often each value was drawn. */
  drawn(places: Int32Array): Int32Array {
    const counts = new Int32Array(this.values.length)
    for (const i of places) counts[this.placeOf[i]!]!++
    return counts
  }
}
