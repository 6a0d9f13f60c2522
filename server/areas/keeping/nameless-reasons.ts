import { nameWords } from '#core/roll'
import type { Db } from '../../kernel/db/open'

/** What stands in the place of words that were erased. */
export const ERASED_WORDS = 'erased'

/** Columns in which people give reasons in their own words, each with which of its rows are the course's. */
const REASONS: readonly { table: string; column: string; rows: string }[] = [
  { table: 'decision', column: 'reason', rows: 't.course_id = :course' },
  { table: 'decision', column: 'withdrawn_reason', rows: 't.course_id = :course' },
  { table: 'issue', column: 'reopened_reason', rows: 't.course_id = :course' },
  { table: 'finding_accepted', column: 'reason', rows: 't.course_id = :course' },
  { table: 'allotment', column: 'asked_because', rows: 't.assessment_id IN (SELECT id FROM assessment WHERE course_id = :course)' },
]
/** JSON with such reasons somewhere in it. */
const IN_JSON: typeof REASONS = [
  { table: 'decision', column: 'changes', rows: 't.course_id = :course' },
  { table: 'issue', column: 'content', rows: 't.course_id = :course' },
  {
    table: 'agreed_mark',
    column: 'rule',
    rows: 't.rule IS NOT NULL AND t.script_id IN (SELECT s.id FROM script s JOIN assessment a ON a.id = s.assessment_id WHERE a.course_id = :course)',
  },
]
/** Keys under which they stand there. */
const REASON_KEYS = new Set(['reason', 'words', 'note'])

/** A student's name has to be this long to be looked for by itself: shorter ones are in every other word. */
const SHORTEST = 3

/**
 * Reasons that decisions and their like were given, and that name a student of the course: by any word of the name, so that a person has
 * to judge each of them.
 */
export function reasonsWithNames(db: Db, courseId: string): string[] {
  const names = new Set(
    db
      .prepare<[string], string>('SELECT name FROM student WHERE course_id = ? AND name <> candidate')
      .pluck()
      .all(courseId)
      .flatMap((name) => nameWords(name).filter((word) => word.length >= SHORTEST)),
  )
  const found = new Set<string>()
  const look = (words: unknown) => {
    if (typeof words === 'string' && words !== ERASED_WORDS && nameWords(words).some((w) => names.has(w))) found.add(words)
  }
  for (const { table, column, rows } of REASONS)
    for (const words of db
      .prepare<[{ course: string }], string | null>(`SELECT DISTINCT t."${column}" FROM "${table}" t WHERE ${rows}`)
      .pluck()
      .iterate({ course: courseId }))
      look(words)
  for (const { table, column, rows } of IN_JSON)
    for (const text of db
      .prepare<[{ course: string }], string>(`SELECT t."${column}" FROM "${table}" t WHERE ${rows}`)
      .pluck()
      .iterate({ course: courseId }))
      eachReason(JSON.parse(text), (words) => {
        look(words)
        return words
      })
  return [...found].sort((a, b) => a.localeCompare(b))
}

/** Puts `erased` in the place of each of these reasons, wherever it stands; the course is nameless already. */
export function eraseReasons(db: Db, courseId: string, reasons: readonly string[]): void {
  const erase = new Set(reasons)
  if (erase.size === 0) return
  for (const { table, column, rows } of REASONS) {
    const set = db.prepare(
      `UPDATE "${table}" SET "${column}" = '${ERASED_WORDS}' WHERE rowid IN (SELECT t.rowid FROM "${table}" t WHERE ${rows} AND t."${column}" = :words)`,
    )
    for (const words of erase) set.run({ course: courseId, words })
  }
  for (const { table, column, rows } of IN_JSON) {
    const set = db.prepare(`UPDATE "${table}" SET "${column}" = ? WHERE rowid = ?`)
    for (const { rowid, text } of db
      .prepare<[{ course: string }], { rowid: number; text: string }>(
        `SELECT t.rowid, t."${column}" AS text FROM "${table}" t WHERE ${rows}`,
      )
      .all({ course: courseId })) {
      const value: unknown = JSON.parse(text)
      if (eachReason(value, (words) => (erase.has(words) ? ERASED_WORDS : words))) set.run(JSON.stringify(value), rowid)
    }
  }
}

/** Puts what `as` says in the place of each reason inside a value. @returns whether that changed anything */
function eachReason(value: unknown, as: (words: string) => string): boolean {
  if (Array.isArray(value)) return value.map((v) => eachReason(v, as)).some(Boolean)
  if (value === null || typeof value !== 'object') return false
  let changed = false
  for (const [key, inner] of Object.entries(value as Record<string, unknown>)) {
    if (typeof inner !== 'string' || !REASON_KEYS.has(key)) changed = eachReason(inner, as) || changed
    else if (as(inner) !== inner) {
      ;(value as Record<string, unknown>)[key] = as(inner)
      changed = true
    }
  }
  return changed
}
