import type { KnownBy } from '#core/roll'
import type { Db } from '../../kernel/db/open'

/** Plain SQL of a teacher’s own sections. Writes go on inside the caller's transaction. */
export function classQueries(db: Db) {
  const teacher = db.prepare<[string, string], string | null>('SELECT teacher_id FROM section WHERE id = ? AND course_id = ?').pluck()
  const members = db.prepare<[string], { id: string; number: string; codeName: string | null }>(
    `SELECT s.id, s.candidate AS number, c.name AS codeName FROM enrolment e JOIN student s ON s.id = e.student_id
     LEFT JOIN code_name c ON c.student_id = s.id WHERE e.section_id = ? AND e.to_day IS NULL ORDER BY length(s.candidate), s.candidate`,
  )
  const came = db
    .prepare<[string], string>(
      `SELECT x.assessment_id || ' ' || x.student_id FROM script x JOIN enrolment e ON e.student_id = x.student_id AND e.to_day IS NULL
       WHERE e.section_id = ? AND (x.came_at IS NOT NULL OR x.text IS NOT NULL)`,
    )
    .pluck()
  const taken = db.prepare<[string], string>('SELECT name FROM code_name WHERE course_id = ?').pluck()
  const takenByOthers = db.prepare<[string, string], string>('SELECT name FROM code_name WHERE course_id = ? AND student_id <> ?').pluck()
  const set = db.prepare(
    'INSERT INTO code_name (student_id, course_id, name) VALUES (?, ?, ?) ON CONFLICT (student_id) DO UPDATE SET name = excluded.name',
  )
  const drop = db.prepare('DELETE FROM code_name WHERE student_id = ?')
  const known = db.prepare<[string], KnownBy & { id: string; personId: string | null }>(
    `SELECT s.id, s.name, s.candidate, s.external_id AS externalId, coalesce(p.sign_in, s.sign_in) AS signIn, s.person_id AS personId
     FROM student s LEFT JOIN person p ON p.id = s.person_id WHERE s.course_id = ?`,
  )
  return { teacher, members, came, taken, takenByOthers, set, drop, known }
}
