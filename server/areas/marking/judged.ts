import { setImmediate } from 'node:timers/promises'
import { criteriaOf } from '#core/scales'
import { packJudged, routes, type JudgedInColumns } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import type { AssessmentRow } from '../../kernel/course/rows'
import { standardsOf } from '../../kernel/standards/judge'
import { gatherJudged, judgedQueries } from '../../kernel/standards/judged-readings'
import { libraryQueries } from '../../kernel/standards/queries'

/** Readings between which others are answered. */
const AT_ONCE = 2000

/** Readings criterion by criterion, for those who compare markers and criteria. */
export function judgedRoutes(handle: Handle, db: Db): void {
  const assessment = db.prepare<[string, string], AssessmentRow>('SELECT * FROM assessment WHERE id = ? AND course_id = ?')
  const standardOf = standardsOf(libraryQueries(db))
  const judged = judgedQueries(db)

  handle(routes.judged, async ({ params: { courseId, assessmentId } }): Promise<JudgedInColumns> => {
    const row = assessment.get(assessmentId, courseId)
    if (!row || row.away) throw new HttpProblem(404, 'There is no such assessment.')
    const gathered = gatherJudged(assessmentId, criteriaOf(standardOf(row.standard_id)))
    let read = 0
    for (const reading of judged.readings(assessmentId)) {
      gathered.add(reading)
      if (++read % AT_ONCE === 0) await setImmediate()
    }
    for (const agreed of judged.agreed(assessmentId)) gathered.addAgreed(agreed)
    return packJudged(gathered.done())
  })
}
