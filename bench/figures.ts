const quantile = (sorted: number[], q: number) => sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))]!

/** Median, 99th percentile and longest of times in ms. */
export function figures(times: readonly number[]): { n: number; p50: number; p99: number; most: number } {
  const sorted = [...times].sort((a, b) => a - b)
  return { n: sorted.length, p50: quantile(sorted, 0.5), p99: quantile(sorted, 0.99), most: sorted.at(-1)! }
}
