import type { Db } from '../../kernel/db/open'
import type { AssessmentRow } from '../../kernel/course/rows'

/** Plain SQL of what a decision needs to know. */
export function trialQueries(db: Db) {
  const trialOf = db.prepare<[string, string], { changes: string; since: string; version: number }>(
    'SELECT changes, since, version FROM trial WHERE course_id = ? AND person_id = ?',
  )
  const keep = db.prepare<[string, string, string, string, string], { version: number }>(
    `INSERT INTO trial (course_id, person_id, changes, since, kept_at) VALUES (?, ?, ?, ?, ?)
     ON CONFLICT DO UPDATE SET changes = excluded.changes, since = excluded.since, kept_at = excluded.kept_at, version = version + 1 RETURNING version`,
  )
  const assessment = db.prepare<[string, string], AssessmentRow>('SELECT * FROM assessment WHERE id = ? AND course_id = ?')
  const versionOf = db.prepare<[string], number>('SELECT version FROM course WHERE id = ?').pluck()
  const renameLists = db.prepare('UPDATE line_list SET grade = ? WHERE course_id = ? AND grade = ? AND closed_at IS NULL')
  const below0 = db
    .prepare<[string], number>(
      `SELECT count(*) FROM script s WHERE s.assessment_id = ? AND (s.entered < 0
         OR EXISTS (SELECT 1 FROM reading r WHERE r.script_id = s.id AND r.mark < 0))`,
    )
    .pluck()
  return { trialOf, keep, assessment, versionOf, renameLists, below0 }
}
