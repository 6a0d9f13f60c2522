import type { StandardOf } from '../marking/ways/way'
import { criterionMaximum } from './rubric'

/** A criterion as every standard has it, whatever else it says of it. */
export interface StandardCriterion {
  id: string
  title: string
  /** The most points that it gives, or takes off. */
  max: number
  /** Its points are taken off. */
  penalty: boolean
  /** From the lowest up; none where points are free. */
  levels: { points: number; to: number | null; words: string }[]
}

/** The criteria that one judges by: those of a rubric or a mark scheme; none of a scale, or of nothing. */
export function criteriaOf(standard: StandardOf | null): StandardCriterion[] {
  if (standard?.kind === 'rubric')
    return standard.body.criteria.map((c) => ({
      id: c.id,
      title: c.title,
      max: criterionMaximum(c),
      penalty: c.penalty,
      levels: c.levels.map((l) => ({ points: l.points, to: l.to ?? null, words: l.name ?? l.words })),
    }))
  if (standard?.kind === 'scheme')
    return standard.body.criteria.map((c) => ({ id: c.id, title: c.title, max: c.max, penalty: false, levels: [] }))
  return []
}
