const PLACES = 1000

/**
 * Weights that sum to a total: where some are empty those share what is left alike; where none is, all are scaled
 * in proportion. Three decimals; what rounding leaves goes to the last one changed.
 * @returns the weights as given where nothing is left for the empty ones, or all are 0
 */
export function spreadRemainder(weights: readonly (number | null)[], total = 100): (number | null)[] {
  const sum = weights.reduce<number>((s, w) => s + (w ?? 0), 0)
  const empty = weights.filter((w) => w === null).length
  if (empty > 0 ? sum > total : sum === 0) return [...weights]
  const wanted = weights.map((w) => (empty > 0 ? (w ?? (total - sum) / empty) : (w! * total) / sum))
  const rounded = wanted.map((w) => Math.round(w * PLACES))
  const last = weights.findLastIndex((w) => (empty === 0 ? w! > 0 : w === null))
  rounded[last]! += Math.round(total * PLACES) - rounded.reduce((s, w) => s + w, 0)
  return rounded.map((w) => w / PLACES)
}
