import { compare, minus, most, over, plus, rationalOf, times, toNumber, ZERO } from '../grades/rational'
import type { StandardCriterion } from './criteria-of'
import type { Picks } from './rubric'

type Counted = Pick<StandardCriterion, 'id' | 'max' | 'penalty'>

/**
 * The mark without some criteria: the total without them over the maximum without them.
 * @param picks points by criterion; what is not judged gives nothing
 * @param outOf what the assessment is marked out of
 * @returns null where nothing is left to mark by
 */
export const markWithout = (criteria: readonly Counted[], picks: Picks, without: readonly string[], outOf: number): number | null =>
  markBy(
    criteria.filter((c) => !without.includes(c.id)),
    picks,
    outOf,
  )

/** The mark with some criteria given in full; of a penalty nothing is taken off. */
export const markGranting = (criteria: readonly Counted[], picks: Picks, granted: readonly string[], outOf: number): number | null =>
  markBy(criteria, { ...picks, ...Object.fromEntries(granted.map((id) => [id, fullPoints(criteria, id)])) }, outOf)

function fullPoints(criteria: readonly Counted[], id: string): number {
  const c = criteria.find((x) => x.id === id)
  return !c || c.penalty ? 0 : c.max
}

function markBy(criteria: readonly Counted[], picks: Picks, outOf: number): number | null {
  const points = criteria.map((c) => ({ ...c, given: rationalOf(picks[c.id] ?? 0) }))
  const total = points.reduce((sum, c) => (c.penalty ? minus(sum, c.given) : plus(sum, c.given)), ZERO)
  const maximum = points.reduce((sum, c) => (c.penalty ? sum : plus(sum, rationalOf(c.max))), ZERO)
  if (compare(maximum, ZERO) === 0) return null
  return toNumber(times(over(most(ZERO, total), maximum), rationalOf(outOf)))
}
