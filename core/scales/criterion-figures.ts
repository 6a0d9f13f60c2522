import { describe } from '../compare/describe'
import { criterionMaximum, type Picks, type Rubric } from './rubric'

export interface CriterionFigures {
  criterionId: string
  /** Readings in which it was judged. */
  n: number
  /** How often each level was given, from the lowest up, zeros and all. */
  levels: number[]
  /** Places of levels that nobody gave. */
  unused: number[]
  /** Mean share of the most it gives, 0..1, and the sd of that share. */
  mean: number | null
  sd: number | null
  /** Correlation with the total of the other criteria in the same readings; null where one of the two does not vary. */
  withOthers: number | null
}

/**
 * What each criterion of a rubric did in a set of readings. A pick that lies in no level counts for the figures and for no level.
 * @param readings what was picked in each; what was not judged is left out
 * Source: corrected item–total correlation: Nunnally & Bernstein 1994, Psychometric Theory, 3rd ed., chapter 8.
 */
export function criterionFigures(rubric: Rubric, readings: readonly Picks[]): CriterionFigures[] {
  const sign = new Map(rubric.criteria.map((c) => [c.id, c.penalty ? -1 : 1]))
  return rubric.criteria.map((c) => {
    const judged = readings.filter((picks) => picks[c.id] !== undefined)
    const most = criterionMaximum(c)
    const levels = c.levels.map((l) => judged.filter((p) => p[c.id]! >= l.points && p[c.id]! <= (l.to ?? l.points)).length)
    const { mean, sd } = describe(most > 0 ? judged.map((p) => p[c.id]! / most) : [])
    const whole = judged.filter((p) => rubric.criteria.every((other) => p[other.id] !== undefined))
    const others = whole.map((p) => rubric.criteria.reduce((s, o) => (o.id === c.id ? s : s + sign.get(o.id)! * p[o.id]!), 0))
    return {
      criterionId: c.id,
      n: judged.length,
      levels,
      unused: levels.flatMap((n, i) => (n === 0 ? [i] : [])),
      mean,
      sd,
      withOthers: correlation(
        whole.map((p) => sign.get(c.id)! * p[c.id]!),
        others,
      ),
    }
  })
}

/** Pearson's; null where one of the two does not vary. */
function correlation(a: readonly number[], b: readonly number[]): number | null {
  const [x, y] = [describe(a), describe(b)]
  if (!x.sd || !y.sd) return null
  const together = a.reduce((s, v, i) => s + (v - x.mean!) * (b[i]! - y.mean!), 0)
  return Math.max(-1, Math.min(1, together / ((a.length - 1) * x.sd * y.sd)))
}
