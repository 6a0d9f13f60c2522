import Database from 'better-sqlite3'
import type { Erased, IssueContent } from '#contract'
import { contentHash } from '../../kernel/course/issue-content'
import { writing, writingInPieces } from '../../kernel/db/transactions'
import { eraseReasons, reasonsWithNames } from './nameless-reasons'
import { shapes } from './package/columns'

const SCRIPTS = 'SELECT s.id FROM script s JOIN assessment a ON a.id = s.assessment_id WHERE a.course_id = :course'
const READINGS = `SELECT r.id FROM reading r WHERE r.script_id IN (${SCRIPTS})`
const REMARKED = "(t.comment <> '' OR t.notes <> '' OR t.criterion_comments <> '{}')"
const NO_REMARK = "comment = '', notes = '', criterion_comments = '{}'"

/** What is erased: of which rows, and what they are from then on. */
const ERASED: { what: Exclude<keyof Erased, 'reasons'>; table: string; rows: string; become: string }[] = [
  { what: 'works', table: 'script', rows: `t.text IS NOT NULL AND t.id IN (${SCRIPTS})`, become: 'text = NULL' },
  {
    what: 'deliveries',
    table: 'delivery',
    rows: "t.course_id = :course AND t.file_name NOT LIKE 'erased %'",
    become: "file_name = 'erased ' || id, content = x'', candidate = 'erased', why = CASE WHEN why IS NOT NULL THEN 'erased' END",
  },
  { what: 'remarks', table: 'script', rows: `t.remark <> '' AND t.id IN (${SCRIPTS})`, become: "remark = ''" },
  { what: 'remarks', table: 'script_state', rows: `t.remark <> '' AND t.script_id IN (${SCRIPTS})`, become: "remark = ''" },
  { what: 'remarks', table: 'reading', rows: `${REMARKED} AND t.id IN (${READINGS})`, become: NO_REMARK },
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
    what: 'remarks',
    table: 'note',
    rows: "t.course_id = :course AND (t.words <> '' OR coalesce(t.answer, '') <> '')",
    become: "words = '', answer = CASE WHEN answer IS NOT NULL THEN '' END",
  },
  {
    what: 'remarks',
    table: 'between_two',
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

/** The same at the very end: names, by which reasons are found until then, and rows that are never rewritten but in a nameless course. */
const ERASED_LAST: typeof ERASED = [
  {
    what: 'students',
    table: 'student',
    rows: 't.course_id = :course AND (t.name <> t.candidate OR t.external_id IS NOT NULL OR t.sign_in IS NOT NULL OR t.person_id IS NOT NULL)',
    become: 'name = candidate, external_id = NULL, sign_in = NULL, person_id = NULL',
  },
  { what: 'remarks', table: 'objection', rows: "t.course_id = :course AND t.reason <> 'erased'", become: "reason = 'erased'" },
  {
    what: 'sent',
    table: 'hand_over',
    rows: `t.course_id = :course AND EXISTS (SELECT 1 FROM json_each(t.sent) s WHERE s.value ->> '$.number' <> '')`,
    become: `sent = (SELECT json_group_array(json_set(s.value, '$.number', '')) FROM json_each(sent) s),
      refused = (SELECT json_group_array(json_set(r.value, '$.number', '', '$.why', 'erased')) FROM json_each(refused) r)`,
  },
]
const LETTERS = { what: 'letters', table: 'letter', rows: 't.course_id = :course' } as const

/** In the place of a student's account where the course's rows say who did something. */
const NOBODY = 'erased'

interface Which {
  /** The database. */
  file: string
  courseId: string
}

/** Counts what would be erased of a course, and lists the reasons that name a student, for a person to judge. */
export function countNames({ file, courseId }: Which): Erased {
  const db = new Database(file, { readonly: true, fileMustExist: true })
  try {
    const counts: Erased = { students: 0, works: 0, deliveries: 0, remarks: 0, rolls: 0, letters: 0, sent: 0, reasons: [] }
    for (const { what, table, rows } of [...ERASED, ...ERASED_LAST, LETTERS])
      counts[what] += db
        .prepare<[{ course: string }], { n: number }>(`SELECT count(*) AS n FROM "${table}" t WHERE ${rows}`)
        .get({ course: courseId })!.n
    counts.reasons = reasonsWithNames(db, courseId)
    return counts
  } finally {
    db.close()
  }
}

/**
 * Erases the names, works and remarks of a course for good; its figures and decisions stay. Begun and not ended, it is begun again: what
 * is erased already is left. Saves go on meanwhile. The file is then to be written anew.
 * @param at when
 * @param reasons which of those that name a student are erased as well
 */
export function makeNameless({ file, courseId, at, reasons }: Which & { at: string; reasons: readonly string[] }): Erased {
  const counts = countNames({ file, courseId })
  const db = new Database(file, { fileMustExist: true })
  try {
    db.pragma('synchronous = FULL')
    db.pragma('foreign_keys = ON')
    db.pragma('busy_timeout = 30000')
    // What is erased is overwritten, and not only let go of.
    db.pragma('secure_delete = ON')
    letGoOfAccounts(db, courseId)
    for (const { table, rows, become } of ERASED) setInPieces(db, courseId, table, rows, become)
    writing(db, () => {
      db.prepare("DELETE FROM course_role WHERE course_id = ? AND role = 'student'").run(courseId)
      db.prepare('DELETE FROM roster_name WHERE student_id IN (SELECT id FROM student WHERE course_id = ?)').run(courseId)
      db.prepare('DELETE FROM letter WHERE course_id = ?').run(courseId)
      db.prepare('DELETE FROM trial WHERE course_id = ?').run(courseId)
      db.prepare('DELETE FROM idea WHERE course_id = ?').run(courseId)
      db.prepare('UPDATE course SET nameless_at = ?, version = version + 1, plan_version = plan_version + 1 WHERE id = ?').run(at, courseId)
      for (const { table, rows, become } of ERASED_LAST)
        db.prepare(`UPDATE "${table}" SET ${become} WHERE rowid IN (SELECT t.rowid FROM "${table}" t WHERE ${rows})`).run({
          course: courseId,
        })
      // Only what was shown as naming somebody is erased by this.
      eraseReasons(
        db,
        courseId,
        counts.reasons.filter((r) => reasons.includes(r)),
      )
      takeNamesOutOfIssues(db, courseId)
    })
  } finally {
    db.close()
  }
  return counts
}

/** Writes the database's file anew, so that nothing stands in pages that were let go of before. Nobody else can write meanwhile. */
export function writeAnew({ file }: { file: string }): void {
  const db = new Database(file, { fileMustExist: true })
  try {
    db.pragma('busy_timeout = 30000')
    db.exec('VACUUM')
    db.pragma('wal_checkpoint(TRUNCATE)')
  } finally {
    db.close()
  }
}

/** Sets columns of a course's rows, which are found once and written in pieces. */
function setInPieces(db: Database.Database, courseId: string, table: string, rows: string, become: string): void {
  const ids = db.prepare<[{ course: string }], number>(`SELECT t.rowid FROM "${table}" t WHERE ${rows}`).pluck().all({ course: courseId })
  if (ids.length === 0) return
  const set = db.prepare(`UPDATE "${table}" SET ${become} WHERE rowid = ?`)
  let done = 0
  writingInPieces(db, (most) => {
    for (const id of ids.slice(done, done + most)) set.run(id)
    done += most
    return done < ids.length
  })
}

/** Where the course's rows say that a student did something (handed in, was looked as), they say from then on that nobody known did. */
function letGoOfAccounts(db: Database.Database, courseId: string): void {
  const students = `SELECT person_id FROM student WHERE course_id = :course AND person_id IS NOT NULL
    UNION SELECT person_id FROM course_role WHERE course_id = :course AND role = 'student'`
  for (const t of shapes(db))
    for (const { columns } of t.references.filter((r) => r.table === 'person' && !['course_role', 'student', 'letter'].includes(t.name))) {
      const [column] = columns
      const rows = `${t.rows} AND t."${column}" IN (${students})`
      const { n } = db
        .prepare<[{ course: string }], { n: number }>(`SELECT count(*) AS n FROM "${t.name}" t WHERE ${rows}`)
        .get({ course: courseId })!
      if (n === 0) continue
      db.prepare("INSERT OR IGNORE INTO person (id, name, sign_in, passphrase_hash, active) VALUES (?, ?, ?, '', 0)").run(
        NOBODY,
        NOBODY,
        // Listed nowhere, like anybody whose account was taken back.
        `taken back ${NOBODY}`,
      )
      setInPieces(db, courseId, t.name, rows, `"${column}" = '${NOBODY}'`)
    }
}

/** Candidate numbers in the place of names, and the hash of what that leaves. */
function takeNamesOutOfIssues(db: Database.Database, courseId: string): void {
  const set = db.prepare('UPDATE issue SET content = ?, nameless_hash = ? WHERE course_id = ? AND number = ?')
  for (const { number, content: text } of db
    .prepare<[string], { number: number; content: string }>('SELECT number, content FROM issue WHERE course_id = ?')
    .all(courseId)) {
    const content = JSON.parse(text) as IssueContent
    content.results = content.results.map((r) => ({ ...r, name: r.candidate }))
    set.run(JSON.stringify(content), contentHash(content), courseId, number)
  }
}
