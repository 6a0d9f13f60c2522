import { criteriaOf } from '#core/scales'
import type { JudgedInColumns } from '#contract'
import type { WorkerPool } from './pool'
import type { AssessmentRow } from '../kernel/course/rows'
import type { Db } from '../kernel/db/open'
import { keepLatest } from '../kernel/keep-latest'
import { orProblem } from '../kernel/or-problem'
import { standardsOf } from '../kernel/standards/judge'
import { libraryQueries } from '../kernel/standards/queries'

/** Assessments whose readings are kept as they travel: several people look at the same few. */
const MOST = 12

/** Handed-in readings of assessments, criterion by criterion: read by a worker once, and kept until something of their course is written. */
export function judgedKept(db: Db, pool: WorkerPool) {
  const assessment = db.prepare<[string, string], AssessmentRow>('SELECT * FROM assessment WHERE id = ? AND course_id = ?')
  const version = db.prepare<[string], number>('SELECT version FROM course WHERE id = ?').pluck()
  const standardOf = standardsOf(libraryQueries(db))
  const kept = new Map<string, { as: string; answer: Promise<JudgedInColumns> }>()

  return {
    /** Null where there is no such assessment. */
    of(courseId: string, assessmentId: string): Promise<JudgedInColumns> | null {
      const row = assessment.get(assessmentId, courseId)
      if (!row || row.away) return null
      const criteria = criteriaOf(standardOf(row.standard_id))
      // Whoever asks while it is read, or before anything else is written, is answered by the same reading.
      const as = JSON.stringify([assessmentId, version.get(courseId), criteria])
      const before = kept.get(assessmentId)
      const answer =
        before?.as === as ? before.answer : pool.judgedColumns({ file: db.name, assessmentId, criteria }, { personId: as }).then(orProblem)
      keepLatest(kept, assessmentId, { as, answer }, MOST)
      answer.catch(() => kept.get(assessmentId)?.answer === answer && kept.delete(assessmentId))
      return answer
    },
    /** Begins to read what will be asked for soon; what goes wrong is told whoever asks. */
    ahead(courseId: string, assessmentIds: Iterable<string>): void {
      for (const id of assessmentIds) void this.of(courseId, id)?.catch(() => undefined)
    },
  }
}

export type JudgedKept = ReturnType<typeof judgedKept>
