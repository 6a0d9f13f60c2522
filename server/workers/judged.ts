import type { StandardCriterion } from '#core/scales'
import { packJudged, type JudgedInColumns } from '#contract'
import { judgedQueries } from '../kernel/standards/judged-readings'
import { reading } from './reading'

export interface OfAssessment {
  /** The database. */
  file: string
  assessmentId: string
  criteria: StandardCriterion[]
}

/** The handed-in readings of an assessment as they travel. */
export const judgedColumns = ({ file, assessmentId, criteria }: OfAssessment): JudgedInColumns =>
  reading(file, (db) => packJudged(judgedQueries(db).ofAssessment(assessmentId, criteria)))
