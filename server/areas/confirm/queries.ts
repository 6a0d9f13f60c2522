import type { IssueContent } from '#contract'
import type { Db } from '../../kernel/db/open'

/** Plain SQL of signatures, objections and issues. Writes go on inside the caller's transaction. */
export function confirmQueries(db: Db) {
  const version = db.prepare<[string], { version: number; signers: string; code: string; term: string }>(
    'SELECT version, signers, code, term FROM course WHERE id = ?',
  )
  const latest = db.prepare<[string], { number: number | null }>('SELECT max(number) AS number FROM issue WHERE course_id = ?')
  const insert = db.prepare(
    'INSERT INTO issue (course_id, number, content, hash, made_at, signers, boundaries, counts) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
  )
  const sign = db.prepare('INSERT INTO signature (course_id, number, person_id, role, statement, at, hash) VALUES (?, ?, ?, ?, ?, ?, ?)')
  const signed = db.prepare<[string, number, string], object>(
    'SELECT 1 FROM signature WHERE course_id = ? AND number = ? AND person_id = ?',
  )
  const reopened = db.prepare('UPDATE issue SET reopened_by = ?, reopened_at = ?, reopened_reason = ? WHERE course_id = ? AND number = ?')
  const object = db.prepare('INSERT INTO objection (id, course_id, number, person_id, role, reason, at) VALUES (?, ?, ?, ?, ?, ?, ?)')
  const takeBack = db.prepare(
    'UPDATE objection SET taken_back_at = ? WHERE id = ? AND course_id = ? AND number = ? AND person_id = ? AND taken_back_at IS NULL',
  )
  const setSigners = db.prepare('UPDATE course SET signers = ? WHERE id = ?')
  const inRole = db.prepare<[string, string], { n: number }>(
    'SELECT count(*) AS n FROM course_role r JOIN person p ON p.id = r.person_id WHERE r.course_id = ? AND r.role = ? AND p.active = 1',
  )
  const decided = db.prepare<[string], NonNullable<IssueContent['decisions']>[number]>(
    `SELECT d.kind, d.summary, d.reason, p.name AS "by", d.made_at AS at FROM decision d JOIN person p ON p.id = d.made_by
     WHERE d.course_id = ? AND d.withdrawn_at IS NULL AND d.kind NOT IN ('confirm', 'reopen') ORDER BY d.seq`,
  )
  return { version, latest, insert, sign, signed, reopened, object, takeBack, setSigners, inRole, decided }
}
