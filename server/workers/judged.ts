import type { StandardCriterion } from '#core/scales'
import { packJudged, type JudgedInColumns } from '#contract'
import { gatherJudged, judgedQueries } from '../kernel/standards/judged-readings'
import { reading } from './reading'

export interface OfAssessment {
  /** The database. */
  file: string
  assessmentId: string
  criteria: StandardCriterion[]
}

/** The handed-in readings of an assessment as they travel. */
export const judgedColumns = ({ file, assessmentId, criteria }: OfAssessment): JudgedInColumns =>
  reading(file, (db) => {
    const judged = judgedQueries(db)
    const gathered = gatherJudged(assessmentId, criteria)
    for (const r of judged.readings(assessmentId)) gathered.add(r)
    for (const a of judged.agreed(assessmentId)) gathered.addAgreed(a)
    return packJudged(gathered.done())
  })
