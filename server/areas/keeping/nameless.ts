import Database from 'better-sqlite3'
import type { Erased } from '#contract'
import { writing } from '../../kernel/db/transactions'

/** Rows that are changed in one go, so that whoever writes elsewhere waits for no longer than that takes. */
const CHUNK = 4000

const SCRIPTS = 'SELECT s.id FROM script s JOIN assessment a ON a.id = s.assessment_id WHERE a.course_id = :course'
const READINGS = `SELECT r.id FROM reading r WHERE r.script_id IN (${SCRIPTS})`
const REMARKED = "(t.comment <> '' OR t.notes <> '' OR t.criterion_comments <> '{}')"
const NO_REMARK = "comment = '', notes = '', criterion_comments = '{}'"

/** What is erased: of which rows, and what they are from then on. */
const ERASED: { what: keyof Erased; table: string; rows: string; become: string }[] = [
  {
    what: 'students',
    table: 'student',
    rows: 't.course_id = :course AND (t.name <> t.candidate OR t.external_id IS NOT NULL OR t.sign_in IS NOT NULL OR t.person_id IS NOT NULL)',
    become: 'name = candidate, external_id = NULL, sign_in = NULL, person_id = NULL, version = version + 1',
  },
  { what: 'works', table: 'script', rows: `t.text IS NOT NULL AND t.id IN (${SCRIPTS})`, become: 'text = NULL, version = version + 1' },
  {
    what: 'deliveries',
    table: 'delivery',
    rows: "t.course_id = :course AND t.file_name NOT LIKE 'erased %'",
    become: "file_name = 'erased ' || id, content = x''",
  },
  { what: 'remarks', table: 'script', rows: `t.remark <> '' AND t.id IN (${SCRIPTS})`, become: "remark = '', version = version + 1" },
  { what: 'remarks', table: 'script_state', rows: `t.remark <> '' AND t.script_id IN (${SCRIPTS})`, become: "remark = ''" },
  { what: 'remarks', table: 'reading', rows: `${REMARKED} AND t.id IN (${READINGS})`, become: `${NO_REMARK}, version = version + 1` },
  { what: 'remarks', table: 'reading_state', rows: `${REMARKED} AND t.reading_id IN (${READINGS})`, become: NO_REMARK },
  { what: 'remarks', table: 'next_reading', rows: `${REMARKED} AND t.reading_id IN (${READINGS})`, become: NO_REMARK },
  { what: 'remarks', table: 'typed_evidence', rows: "t.course_id = :course AND t.note <> ''", become: "note = ''" },
  {
    what: 'remarks',
    table: 'mark_question',
    rows: `(t.reason <> '' OR coalesce(t.answer, '') <> '') AND t.script_id IN (${SCRIPTS})`,
    become: "reason = '', answer = CASE WHEN answer IS NOT NULL THEN '' END",
  },
  {
    // What somebody chose to be called may tell who they are.
    what: 'remarks',
    table: 'code_name',
    rows: "t.course_id = :course AND t.name NOT LIKE 'erased %'",
    become: "name = 'erased ' || student_id",
  },
  {
    what: 'remarks',
    table: 'kept_group',
    rows: "t.course_id = :course AND t.name NOT LIKE 'erased %'",
    become: "name = 'erased ' || id",
  },
  {
    what: 'rolls',
    table: 'roll_file',
    rows: `t.course_id = :course AND t.before <> '{"sections":[],"students":[]}'`,
    become: `before = '{"sections":[],"students":[]}', undone_by = coalesce(undone_by, by_id), undone_at = coalesce(undone_at, at)`,
  },
]

interface Which {
  /** The database. */
  file: string
  courseId: string
}

/** Counts what would be erased of a course. */
export function countNames({ file, courseId }: Which): Erased {
  const db = new Database(file, { readonly: true, fileMustExist: true })
  try {
    const counts: Erased = { students: 0, works: 0, deliveries: 0, remarks: 0, rolls: 0 }
    for (const { what, table, rows } of ERASED)
      counts[what] += db
        .prepare<[{ course: string }], { n: number }>(`SELECT count(*) AS n FROM "${table}" t WHERE ${rows}`)
        .get({ course: courseId })!.n
    return counts
  } finally {
    db.close()
  }
}

/**
 * Erases the names, works and remarks of a course for good; its figures and decisions stay. Begun and not ended, it is begun again: what
 * is erased already is left.
 * @param at when
 */
export function makeNameless({ file, courseId, at }: Which & { at: string }): Erased {
  const counts = countNames({ file, courseId })
  const db = new Database(file, { fileMustExist: true })
  try {
    db.pragma('synchronous = FULL')
    db.pragma('foreign_keys = ON')
    // What is erased is overwritten, and not only let go of.
    db.pragma('secure_delete = ON')
    for (const { table, rows, become } of ERASED) {
      const some = db.prepare(
        `UPDATE "${table}" SET ${become} WHERE rowid IN (SELECT t.rowid FROM "${table}" t WHERE ${rows} LIMIT ${CHUNK})`,
      )
      for (;;) if (writing(db, () => some.run({ course: courseId }).changes) === 0) break
    }
    writing(db, () => {
      db.prepare("DELETE FROM course_role WHERE course_id = ? AND role = 'student'").run(courseId)
      db.prepare('DELETE FROM roster_name WHERE student_id IN (SELECT id FROM student WHERE course_id = ?)').run(courseId)
      db.prepare('DELETE FROM trial WHERE course_id = ?').run(courseId)
      db.prepare('DELETE FROM idea WHERE course_id = ?').run(courseId)
      db.prepare('UPDATE course SET nameless_at = ?, version = version + 1, plan_version = plan_version + 1 WHERE id = ?').run(at, courseId)
      db.prepare(
        `UPDATE issue SET content = json_set(content, '$.results',
           (SELECT json_group_array(json_set(r.value, '$.name', r.value ->> '$.candidate')) FROM json_each(content, '$.results') r))
         WHERE course_id = ?`,
      ).run(courseId)
    })
    db.pragma('wal_checkpoint(TRUNCATE)')
  } finally {
    db.close()
  }
  return counts
}
