import type { Db } from '../../kernel/db/open'
import type { AssessmentRow } from '../../kernel/course/rows'

/** Plain SQL of exemplars. Writes go on inside the caller's transaction. */
export function exemplarQueries(db: Db) {
  const assessments = db.prepare<[string, string], AssessmentRow>('SELECT * FROM assessment WHERE id = ? AND course_id = ?')
  const listed = db.prepare<[string], { id: string; title: string }>(
    `SELECT a.id, a.title FROM assessment a JOIN component c ON c.id = a.component_id
     WHERE a.course_id = ? AND a.away = 0 AND a.marking <> 'completion' ORDER BY c.position, a.position`,
  )
  const role = db.prepare<[string, string], { role: string }>('SELECT role FROM course_role WHERE course_id = ? AND person_id = ?')
  return { assessments, listed, role }
}
