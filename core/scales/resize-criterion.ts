import { minus, over, rationalOf, roundToStep, times, toNumber } from '../grades/rational'
import { criterionMaximum, type Criterion, type RubricLevel } from './rubric'

/**
 * A criterion with another maximum: its levels and ranges keep their proportion, snapped half up to the step where one is
 * given; a range stays below the level above it, the order is kept and the top is exactly the new maximum. Levels that meet by snapping are for `rubricFindings` to say.
 * @param newMax above 0
 * @param step what points are multiples of; null to keep them as they fall, to three decimals
 * @throws RangeError for a maximum or step that is not above 0, or a criterion whose top is 0
 */
export function resizeCriterion(criterion: Criterion, newMax: number, step: number | null): Criterion {
  if (!(newMax > 0)) throw new RangeError('The new maximum must be above 0.')
  if (step !== null && !(step > 0)) throw new RangeError('The step must be above 0.')
  const top = criterionMaximum(criterion)
  if (!(top > 0)) throw new RangeError(`${criterion.title} has no points to keep in proportion.`)
  const factor = over(rationalOf(newMax), rationalOf(top))
  const resized = (points: number) =>
    points === top ? newMax : Math.min(newMax, toNumber(roundToStep(times(rationalOf(points), factor), rationalOf(step ?? 0.001))))
  /** The upper end of a range: below the level above it, where it was so before. */
  const upperEnd = ({ points, to }: RubricLevel & { to: number }): number => {
    const above = criterion.levels.filter((l) => l.points > to).map((l) => resized(l.points))
    const next = Math.min(...above)
    const end = resized(to)
    return end < next ? end : Math.max(resized(points), toNumber(minus(rationalOf(next), rationalOf(step ?? 0.001))))
  }
  return {
    ...criterion,
    levels: criterion.levels.map((l) => ({
      ...l,
      points: resized(l.points),
      ...(l.to === undefined ? {} : { to: upperEnd({ ...l, to: l.to }) }),
    })),
  }
}
