import { randomUUID } from 'node:crypto'
import type { ExemplarBody, Judged } from '#contract'
import { now, type Db } from '../db/open'

export interface ExemplarRow {
  id: string
  assessment_id: string
  label: string
  text: string
  standard_id: string | null
  picks: string
  judgement: string | null
  mark: number
  note: string
  shown: ExemplarBody['shown']
  version: number
  readBy: number
}

export interface ExemplarReadingRow {
  exemplar_id: string
  marker_id: string
  picks: string
  judgement: string | null
  mark: number
}

export interface JudgedMark extends Judged {
  mark: number
}

/** Plain SQL of the exemplars. Writes go on inside the caller's transaction. */
export function tuningQueries(db: Db) {
  const SELECT = `SELECT x.*, (SELECT count(*) FROM exemplar_reading r WHERE r.exemplar_id = x.id) AS readBy FROM exemplar x`
  const ofAssessment = db.prepare<[string], ExemplarRow>(`${SELECT} WHERE x.assessment_id = ? AND x.away = 0 ORDER BY x.position, x.id`)
  const one = db.prepare<[string, string], ExemplarRow>(
    `${SELECT} JOIN assessment a ON a.id = x.assessment_id WHERE x.id = ? AND a.course_id = ?`,
  )
  const insert = db.prepare(
    `INSERT INTO exemplar (id, assessment_id, label, text, standard_id, picks, judgement, mark, note, shown, position)
     VALUES (@id, @assessmentId, @label, @text, @standardId, @picks, @judgement, @mark, @note, @shown,
       (SELECT coalesce(max(position), -1) + 1 FROM exemplar WHERE assessment_id = @assessmentId))`,
  )
  const update = db.prepare(
    `UPDATE exemplar SET label = @label, text = @text, standard_id = @standardId, picks = @picks, judgement = @judgement, mark = @mark,
       note = @note, shown = @shown, away = @away, version = version + 1 WHERE id = @id`,
  )
  const readings = db.prepare<[string], ExemplarReadingRow>(
    'SELECT r.* FROM exemplar_reading r JOIN exemplar x ON x.id = r.exemplar_id WHERE x.assessment_id = ? AND x.away = 0',
  )
  const read = db.prepare('INSERT INTO exemplar_reading (exemplar_id, marker_id, picks, judgement, mark, at) VALUES (?, ?, ?, ?, ?, ?)')
  const gates = db.prepare<[string], { marker_id: string; state: 'open' | 'held' }>(
    'SELECT marker_id, state FROM marking_gate WHERE assessment_id = ?',
  )
  const markers = db.prepare<[string], { id: string; name: string }>(
    `SELECT p.id, p.name FROM course_role c JOIN person p ON p.id = c.person_id WHERE c.course_id = ? AND c.role = 'marker' ORDER BY p.name`,
  )
  const setGate = db.prepare(
    `INSERT INTO marking_gate (assessment_id, marker_id, state, by_id, at) VALUES (?, ?, ?, ?, ?)
     ON CONFLICT DO UPDATE SET state = excluded.state, by_id = excluded.by_id, at = excluded.at`,
  )
  const dropGate = db.prepare('DELETE FROM marking_gate WHERE assessment_id = ? AND marker_id = ?')
  const columns = (body: ExemplarBody, { picks, judgement, mark }: JudgedMark, standardId: string | null) => ({
    label: body.label,
    text: body.text,
    note: body.note,
    shown: body.shown,
    picks: JSON.stringify(picks),
    judgement,
    mark,
    standardId,
  })

  const all = (assessmentId: string) => ofAssessment.all(assessmentId)
  const readingsOf = (assessmentId: string) => readings.all(assessmentId)
  return {
    all,
    get: (courseId: string, id: string) => one.get(id, courseId) ?? null,
    readings: readingsOf,
    markers: (courseId: string) => markers.all(courseId),
    gates: (assessmentId: string) => new Map(gates.all(assessmentId).map((g) => [g.marker_id, g.state])),
    add(assessmentId: string, body: ExemplarBody, agreed: JudgedMark, standardId: string | null): string {
      const id = randomUUID()
      insert.run({ id, assessmentId, ...columns(body, agreed, standardId) })
      return id
    },
    edit: (id: string, body: ExemplarBody, agreed: JudgedMark, standardId: string | null, away: boolean) =>
      update.run({ id, away: Number(away), ...columns(body, agreed, standardId) }),
    read: (id: string, markerId: string, { picks, judgement, mark }: JudgedMark) =>
      read.run(id, markerId, JSON.stringify(picks), judgement, mark, now()),
    setGate(assessmentId: string, markerId: string, state: 'open' | 'held' | null, by: string): void {
      if (state === null) dropGate.run(assessmentId, markerId)
      else setGate.run(assessmentId, markerId, state, by, now())
    },
  }
}

/**
 * Who may begin to mark an assessment: as the lead set it, else whoever has read all its exemplars.
 * @returns the state, and whether it was set
 */
export function gateFor(db: Db) {
  const set = db.prepare<[string, string], { state: 'open' | 'held' }>(
    'SELECT state FROM marking_gate WHERE assessment_id = ? AND marker_id = ?',
  )
  const unread = db.prepare<[string, string], { n: number }>(
    `SELECT count(*) AS n FROM exemplar x WHERE x.assessment_id = ? AND x.away = 0
     AND NOT EXISTS (SELECT 1 FROM exemplar_reading r WHERE r.exemplar_id = x.id AND r.marker_id = ?)`,
  )
  return (assessmentId: string, markerId: string): { gate: 'open' | 'held'; unread: number } => {
    const { n } = unread.get(assessmentId, markerId)!
    return { gate: set.get(assessmentId, markerId)?.state ?? (n > 0 ? 'held' : 'open'), unread: n }
  }
}
