import type { Db } from '../../kernel/db/open'
import type { AssessmentRow } from '../../kernel/course/rows'

/** Plain SQL of what entries of the library are attached to. */
export function attachQueries(db: Db) {
  const assessment = db.prepare<[string, string], AssessmentRow>('SELECT * FROM assessment WHERE id = ? AND course_id = ?')
  const readings = db.prepare<[string], { n: number; marks: number }>(
    `SELECT count(r.id) AS n, (SELECT count(*) FROM script s WHERE s.assessment_id = a.id AND s.entered IS NOT NULL) AS marks
     FROM assessment a LEFT JOIN script s ON s.assessment_id = a.id LEFT JOIN reading r ON r.script_id = s.id WHERE a.id = ?`,
  )
  const attach = db.prepare('UPDATE assessment SET standard_id = ?, marking = ?, version = version + 1 WHERE id = ?')
  const marksIn = db.prepare<[string], { id: string }>("SELECT course_id AS id FROM course_role WHERE person_id = ? AND role = 'marker'")
  return { assessment, readings, attach, marksIn }
}
