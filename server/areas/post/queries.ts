import type { Letter } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { Message } from '../../standins/post'

const LETTER = `l.id, b.name AS "by", t.name AS "to", l.subject, l.body, l.at FROM letter l
  JOIN person b ON b.id = l.by_id JOIN person t ON t.id = l.to_id WHERE l.course_id = ?`

/** Plain SQL of letters that were written. Writes go on inside the caller's transaction. */
export function postQueries(db: Db) {
  const all = db.prepare<[string], Letter>(`SELECT ${LETTER} ORDER BY l.at DESC, l.rowid DESC LIMIT 500`)
  const own = db.prepare<[string, string], Letter>(`SELECT ${LETTER} AND l.to_id = ? ORDER BY l.at DESC, l.rowid DESC LIMIT 500`)
  const insert = db.prepare('INSERT INTO letter (id, course_id, by_id, to_id, subject, body, at) VALUES (?, ?, ?, ?, ?, ?, ?)')
  const addressee = db.prepare<[string], Message['to']>(
    'SELECT p.name, p.sign_in AS signIn, p.email FROM letter l JOIN person p ON p.id = l.to_id WHERE l.id = ?',
  )
  const person = db.prepare<[string], Message['to']>('SELECT name, sign_in AS signIn, email FROM person WHERE id = ?')
  const assessment = db.prepare<[string, string], { title: string }>(
    'SELECT title FROM assessment WHERE id = ? AND course_id = ? AND away = 0',
  )
  const isCourse = db.prepare<[string], { id: string }>('SELECT id FROM course WHERE id = ?')
  return { all, own, insert, addressee, person, assessment, isCourse }
}
