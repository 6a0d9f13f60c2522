/** Points this near a level are that level’s. */
const SAME = 1e-9

/**
 * The place of the highest level whose points are come up to; the lowest where none is.
 * @param from points at which each level begins, from the lowest up
 * @returns from 0; null where nothing was judged
 */
export function placeOf(from: readonly number[], points: number | null | undefined): number | null {
  if (points === null || points === undefined || Number.isNaN(points) || from.length === 0) return null
  let place = 0
  from.forEach((p, i) => {
    if (points >= p - SAME) place = i
  })
  return place
}

/**
 * A level of one list as a level of another, in proportion; of two that are equally near the lower.
 * @param place from 0, of `of` levels
 * @param levels how many the other list has
 * @returns from 1
 */
export function levelInProportion(place: number, of: number, levels: number): number {
  if (of < 2) return levels
  // Half a step is told exactly: twice the numerator against the denominator.
  const [n, d] = [place * (levels - 1), of - 1]
  const below = Math.floor(n / d)
  return 1 + (2 * (n - below * d) > d ? below + 1 : below)
}

/** The middle one; of two the lower. Null for none. */
export const lowerMedian = (levels: readonly number[]): number | null =>
  levels.toSorted((a, b) => a - b)[Math.ceil(levels.length / 2) - 1] ?? null
