const STEPS = [1, 2, 10, 100, 1000]

/** The number with the fewest decimals above `low` and up to `high`, of several the one nearest their middle; null where none has three or fewer. */
export function roundest(low: number, high: number): number | null {
  const middle = (low + high) / 2
  for (const parts of STEPS) {
    const last = Math.floor(high * parts + 1e-9) / parts
    const first = (Math.floor(low * parts + 1e-9) + 1) / parts
    if (first > last) continue
    return Math.min(last, Math.max(first, Math.round(middle * parts) / parts))
  }
  return null
}
