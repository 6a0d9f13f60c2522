import { quantile } from './describe'
import { seeded } from '../share/seeded'

/** How samples are drawn. */
export interface Draws {
  seed: number
  /** How many samples. */
  draws: number
}

/**
 * The middle 95% of what a figure comes to in samples of the same size, drawn with repetition (percentile bootstrap).
 * @param n how many there are to draw from
 * @param figure of the drawn places; null where it is not defined
 * @returns null where it is not defined in nearly all samples
 * Source: Efron & Tibshirani 1993, An Introduction to the Bootstrap, chapter 13.
 */
export function resampledInterval(
  n: number,
  figure: (drawn: readonly number[]) => number | null,
  { seed, draws }: Draws,
): [low: number, high: number] | null {
  const random = seeded(seed)
  const figures: number[] = []
  const drawn = new Array<number>(n)
  for (let d = 0; d < draws; d++) {
    for (let i = 0; i < n; i++) drawn[i] = random.below(n)
    const x = figure(drawn)
    if (x !== null) figures.push(x)
  }
  if (draws === 0 || figures.length < draws * 0.9) return null
  figures.sort((a, b) => a - b)
  return [quantile(figures, 0.025)!, quantile(figures, 0.975)!]
}

/** What was drawn of a sorted list, sorted: places are counted, so that it takes one pass. */
export function drawnInOrder<T>(sorted: readonly T[], drawn: readonly number[]): T[] {
  const times = new Int32Array(sorted.length)
  for (const i of drawn) times[i]!++
  return sorted.flatMap((x, i) => new Array<T>(times[i]!).fill(x))
}
