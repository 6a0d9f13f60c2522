import type { Stay } from '#core/roll'
import type { Db } from '../../kernel/db/open'

/** Plain SQL of private calendar addresses and of whose days they are. Writes go on inside the caller's transaction. */
export function calendarQueries(db: Db) {
  const kept = db.prepare<[string], { at: string }>('SELECT at FROM calendar_address WHERE person_id = ?')
  const renew = db.prepare(
    'INSERT INTO calendar_address (person_id, token_hash, at) VALUES (?, ?, ?) ON CONFLICT DO UPDATE SET token_hash = excluded.token_hash, at = excluded.at',
  )
  const drop = db.prepare('DELETE FROM calendar_address WHERE person_id = ?')
  const holder = db.prepare<[string], { id: string; name: string }>(
    'SELECT p.id, p.name FROM calendar_address c JOIN person p ON p.id = c.person_id WHERE c.token_hash = ? AND p.active = 1',
  )
  const courses = db
    .prepare<[string], string>(
      'SELECT r.course_id FROM course_role r JOIN course c ON c.id = r.course_id WHERE r.person_id = ? AND c.away_at IS NULL ORDER BY c.first_day, c.id',
    )
    .pluck()
  const taught = db.prepare<[string, string], string>('SELECT id FROM section WHERE course_id = ? AND teacher_id = ?').pluck()
  const student = db.prepare<[string, string], { id: string; sectionId: string }>(
    `SELECT s.id, e.section_id AS sectionId FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL
     WHERE s.course_id = ? AND s.person_id = ?`,
  )
  const staysOf = db.prepare<[string], Stay>(
    'SELECT section_id AS sectionId, from_day AS "from", to_day AS "to" FROM enrolment WHERE student_id = ? ORDER BY from_day',
  )
  return { kept, renew, drop, holder, courses, taught, student, staysOf }
}
