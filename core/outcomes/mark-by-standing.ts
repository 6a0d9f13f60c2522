/** Decimals of a mark. */
const PLACES = 3

/**
 * The mark that a standing is worth.
 * @param level from 1; null where there is not enough evidence
 * @param percents what each level is worth, from the lowest up
 * @returns marks of `outOf`, at most 3 decimals; null where there is no level, which is pending and never a zero
 */
export const markByStanding = (level: number | null, percents: readonly number[], outOf: number): number | null => {
  const percent = level === null ? undefined : percents[level - 1]
  return percent === undefined ? null : Number(((percent / 100) * outOf).toFixed(PLACES))
}

/** What levels are worth where nobody said so: in proportion, the lowest 0 and the highest 100. */
export const percentsInProportion = (levels: number): number[] =>
  Array.from({ length: levels }, (_, i) => (levels < 2 ? 100 : Number(((100 * i) / (levels - 1)).toFixed(1))))
