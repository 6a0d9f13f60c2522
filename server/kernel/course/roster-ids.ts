import { OWN_NAMES, studentId, type RosterNames } from '#core/exchange/roster-files'
import type { NameParts } from '#core/roll'
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

/** What a roster brought: section → the id of its class, person → the id of who teaches, student → the name in its parts. */
export function knownByRoster(db: Db, courseId: string) {
  const pairs = (sql: string) => new Map(db.prepare<[string], [string, string]>(sql).raw().all(courseId))
  return {
    classes: pairs('SELECT section_id, source_id FROM roster_class WHERE course_id = ?'),
    // An installation may know people by their ids, whatever course they are in.
    teachers: pairs(
      `SELECT p.id, coalesce(t.source_id, p.external_id) FROM course_role c JOIN person p ON p.id = c.person_id
       LEFT JOIN roster_teacher t ON t.person_id = p.id AND t.course_id = c.course_id
       WHERE c.course_id = ? AND coalesce(t.source_id, p.external_id) IS NOT NULL`,
    ),
    parts: new Map(
      db
        .prepare<[string], NameParts & { id: string }>(
          'SELECT s.id, n.given, n.middle, n.family FROM student s JOIN roster_name n ON n.student_id = s.id WHERE s.course_id = ?',
        )
        .all(courseId)
        .map(({ id, ...n }) => [id, n]),
    ),
  }
}

/** Names for files that others read; by our own ids where no roster brought any. */
export const namesAmong = ({ classes, teachers, parts }: ReturnType<typeof knownByRoster>): RosterNames => ({
  classOf: (id) => classes.get(id) ?? OWN_NAMES.classOf(id),
  teacherOf: (id) => teachers.get(id) ?? OWN_NAMES.teacherOf(id),
  partsOf: (id) => parts.get(id) ?? null,
})

/** The same of a course. */
export const rosterNames = (db: Db, courseId: string): RosterNames => namesAmong(knownByRoster(db, courseId))
