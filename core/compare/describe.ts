import { fsum } from 'd3-array'

export interface Description {
  n: number
  mean: number | null
  /** Sample standard deviation (n − 1); null under two values. */
  sd: number | null
  min: number | null
  q1: number | null
  median: number | null
  q3: number | null
  max: number | null
  /** Adjusted Fisher–Pearson; null under three values or without variation. */
  skewness: number | null
}

/**
 * Any quantile, type 7 of Hyndman & Fan (1996, The American Statistician 50:361–365).
 * @param sorted ascending
 * @param p 0..1
 */
export function quantile(sorted: ArrayLike<number>, p: number): number | null {
  if (sorted.length === 0) return null
  const h = (sorted.length - 1) * p
  const low = Math.floor(h)
  const a = sorted[low]!
  const b = sorted[Math.min(low + 1, sorted.length - 1)]!
  return a + (h - low) * (b - a)
}

/** The mean of values on whatever unit they have, the same in whatever order they come; null for none. */
export const meanOf = (values: Iterable<number> & { length: number }): number | null =>
  values.length === 0 ? null : fsum(values) / values.length

/** Describes marks or percents, on whatever unit they have. What is undefined is null. */
export function describe(values: readonly number[]): Description {
  const n = values.length
  // A typed array is put in order many times as fast, and all courses are described at every step of a boundary.
  const sorted = Float64Array.from(values).sort()
  const mean = meanOf(sorted)
  let [m2, m3] = [0, 0]
  if (mean !== null)
    for (const x of sorted) {
      m2 += (x - mean) ** 2
      m3 += (x - mean) ** 3
    }
  // Values all alike can leave a speck of rounding behind, which is no variation.
  const varies = n > 1 && sorted[0] !== sorted[n - 1]
  return {
    n,
    mean,
    sd: n < 2 ? null : varies ? Math.sqrt(m2 / (n - 1)) : 0,
    min: sorted[0] ?? null,
    q1: quantile(sorted, 0.25),
    median: quantile(sorted, 0.5),
    q3: quantile(sorted, 0.75),
    max: sorted[n - 1] ?? null,
    skewness: n < 3 || !varies ? null : ((Math.sqrt(n * (n - 1)) / (n - 2)) * (m3 / n)) / (m2 / n) ** 1.5,
  }
}

export const sum = (values: readonly number[]): number => values.reduce((s, x) => s + x, 0)
