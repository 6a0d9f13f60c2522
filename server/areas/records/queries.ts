import type { Db } from '../../kernel/db/open'

export interface HandOverRow {
  id: string
  number: number
  by: string
  at: string
  sent: string
  receipt: string | null
  refused: string
}

/** Refused by the office, and withdrawn from it since: of either the office has no result. */
const REFUSED = `(SELECT json_group_array(json(value)) FROM (
  SELECT value FROM json_each(h.refused)
  UNION ALL SELECT json_object('studentId', w.student_id, 'number', x.value ->> '$.number', 'why', 'Withdrawn by ' || q.name || ' on ' || substr(w.at, 1, 10) || '.')
    FROM result_withdrawn w JOIN person q ON q.id = w.by_id JOIN json_each(h.sent) x ON x.value ->> '$.studentId' = w.student_id WHERE w.hand_over_id = h.id))`

/** Plain SQL of what is handed over and let out. Writes go on inside the caller's transaction. */
export function recordQueries(db: Db) {
  const sections = db.prepare<[string], { id: string; onDay: string | null }>(
    `SELECT s.id, r.on_day AS onDay FROM section s LEFT JOIN result_release r ON r.section_id = s.id AND r.course_id = s.course_id
     WHERE s.course_id = ? ORDER BY s.position`,
  )
  const setRelease = db.prepare(
    `INSERT INTO result_release (course_id, section_id, on_day, by_id, at) VALUES (?, ?, ?, ?, ?)
     ON CONFLICT DO UPDATE SET on_day = excluded.on_day, by_id = excluded.by_id, at = excluded.at, told_at = NULL`,
  )
  const holdBack = db.prepare('DELETE FROM result_release WHERE course_id = ? AND section_id = ?')
  const all = db.prepare<[string], HandOverRow>(
    `SELECT h.id, h.number, p.name AS "by", h.at, h.sent, h.receipt, ${REFUSED} AS refused FROM hand_over h JOIN person p ON p.id = h.by_id
     WHERE h.course_id = ? ORDER BY h.at DESC, h.rowid DESC`,
  )
  const rows = db.prepare<[string, number], HandOverRow>(
    `SELECT h.id, h.number, p.name AS "by", h.at, h.sent, h.receipt, ${REFUSED} AS refused FROM hand_over h JOIN person p ON p.id = h.by_id
     WHERE h.course_id = ? AND h.number = ? ORDER BY h.at DESC, h.rowid DESC`,
  )
  const one = db.prepare<[string], HandOverRow & { course_id: string }>(
    `SELECT h.id, h.course_id, h.number, p.name AS "by", h.at, h.sent, h.receipt, ${REFUSED} AS refused FROM hand_over h JOIN person p ON p.id = h.by_id
     WHERE h.id = ?`,
  )
  const insert = db.prepare('INSERT INTO hand_over (id, course_id, number, by_id, at, sent) VALUES (?, ?, ?, ?, ?, ?)')
  const answered = db.prepare('UPDATE hand_over SET receipt = ?, refused = ?, answered_at = ? WHERE id = ?')
  const withdraw = db.prepare(
    'INSERT INTO result_withdrawn (hand_over_id, student_id, by_id, at) VALUES (?, ?, ?, ?) ON CONFLICT DO NOTHING',
  )
  const numbers = db.prepare<[string], { id: string; name: string; number: string | null }>(
    'SELECT id, name, external_id AS number FROM student WHERE course_id = ?',
  )
  const course = db.prepare<[string], { code: string; term: string }>('SELECT code, term FROM course WHERE id = ?')
  return { sections, setRelease, holdBack, all, rows, one, insert, answered, withdraw, numbers, course }
}
