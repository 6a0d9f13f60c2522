import { criteriaOf } from '#core/scales'
import { routes, type JudgedInColumns } from '#contract'
import type { AssessmentRow } from '../../kernel/course/rows'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { orProblem } from '../../kernel/or-problem'
import { HttpProblem } from '../../kernel/problem'
import { standardsOf } from '../../kernel/standards/judge'
import { libraryQueries } from '../../kernel/standards/queries'
import type { WorkerPool } from '../../workers/pool'
import { keepLatest } from '../../kernel/keep-latest'

/** Assessments whose readings are kept as they travel: several people look at the same few. */
const MOST = 12

/** Readings criterion by criterion, for those who compare markers and criteria. */
export function judgedRoutes(handle: Handle, db: Db, pool: WorkerPool): void {
  const assessment = db.prepare<[string, string], AssessmentRow>('SELECT * FROM assessment WHERE id = ? AND course_id = ?')
  const version = db.prepare<[string], number>('SELECT version FROM course WHERE id = ?').pluck()
  const standardOf = standardsOf(libraryQueries(db))
  const kept = new Map<string, { as: string; answer: Promise<JudgedInColumns> }>()

  handle(routes.judged, ({ params: { courseId, assessmentId } }): Promise<JudgedInColumns> => {
    const row = assessment.get(assessmentId, courseId)
    if (!row || row.away) throw new HttpProblem(404, 'There is no such assessment.')
    const criteria = criteriaOf(standardOf(row.standard_id))
    // Whoever asks while it is read, or before anything else is written, is answered by the same reading.
    const as = JSON.stringify([assessmentId, version.get(courseId), criteria])
    const before = kept.get(assessmentId)
    const answer =
      before?.as === as ? before.answer : pool.judgedColumns({ file: db.name, assessmentId, criteria }, { personId: as }).then(orProblem)
    keepLatest(kept, assessmentId, { as, answer }, MOST)
    answer.catch(() => kept.get(assessmentId)?.answer === answer && kept.delete(assessmentId))
    return answer
  })
}
