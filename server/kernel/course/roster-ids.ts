import { studentId } from '#core/exchange/roster-files'
import type { Db } from '../db/open'

/** The ids by which rosters know the students of a course, by ours. */
export const rosterIds = (db: Db, courseId: string): Map<string, string> =>
  new Map(
    db
      .prepare<[string], [string, string, string | null]>('SELECT id, candidate, external_id FROM student WHERE course_id = ?')
      .raw()
      .all(courseId)
      .map(([id, candidate, externalId]) => [id, studentId(externalId, candidate)]),
  )
