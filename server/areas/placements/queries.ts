import type { Db } from '../../kernel/db/open'

/** Plain SQL of what is set for whom and when. Writes go on inside the caller's transaction. */
export function placementQueries(db: Db) {
  const placement = db.prepare<[string, string], { due: string | null; release: string }>(
    'SELECT due, release FROM placement WHERE assessment_id = ? AND section_id = ?',
  )
  const set = db.prepare(
    `INSERT INTO placement (assessment_id, section_id, due, release) VALUES (?, ?, ?, ?)
     ON CONFLICT DO UPDATE SET due = excluded.due, release = excluded.release`,
  )
  const letOutAt = db.prepare('UPDATE placement SET let_out_at = ? WHERE assessment_id = ? AND section_id = ?')
  const remove = db.prepare('DELETE FROM placement WHERE assessment_id = ? AND section_id = ?')
  const marks = db.prepare<[string, string], { n: number }>(
    `SELECT count(*) AS n FROM script s JOIN enrolment e ON e.student_id = s.student_id
     WHERE s.assessment_id = ? AND e.section_id = ?
       AND (s.entered IS NOT NULL OR s.status <> 'in' OR EXISTS (SELECT 1 FROM reading r WHERE r.script_id = s.id))`,
  )
  const accept = db.prepare(
    'INSERT INTO finding_accepted (course_id, key, reason, by_id, at) VALUES (?, ?, ?, ?, ?) ON CONFLICT DO UPDATE SET reason = excluded.reason',
  )
  const raise = db.prepare('DELETE FROM finding_accepted WHERE course_id = ? AND key = ?')
  const teaches = db.prepare<[string, string], { id: string }>('SELECT id FROM section WHERE course_id = ? AND teacher_id = ?')
  const person = db.prepare<[string, string], { name: string }>(
    'SELECT p.name FROM person p JOIN course_role r ON r.person_id = p.id WHERE p.id = ? AND r.course_id = ?',
  )
  return { placement, set, letOutAt, remove, marks, accept, raise, teaches, person }
}
