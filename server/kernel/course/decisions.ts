import type { Change, Decision, Effect } from '#contract'
import { now, type Db } from '../db/open'
import { holdsOver, readingsOf } from './readings-of'

interface Row {
  id: string
  kind: Decision['kind']
  summary: string
  changes: string
  effect: string | null
  reason: string
  by_name: string
  made_at: string
  withdrawn_name: string | null
  withdrawn_at: string | null
  withdrawn_reason: string | null
}

export interface NewDecision {
  id: string
  courseId: string
  kind: Decision['kind']
  summary: string
  changes: Change[]
  effect: Effect | null
  reason: string
  by: string
}

/** A decision with the versions of the course that it made, and that taking it back made. */
export interface DecidedSince extends Decision {
  made: number
  takenBack: number | null
}

/** The record of a course. What is in force is what its decisions, less the withdrawn ones, say in their order. */
export function decisions(db: Db) {
  const select = `SELECT d.*, m.name AS by_name, w.name AS withdrawn_name FROM decision d
    JOIN person m ON m.id = d.made_by LEFT JOIN person w ON w.id = d.withdrawn_by`
  const all = db.prepare<[string], Row>(`${select} WHERE d.course_id = ? ORDER BY d.seq DESC`)
  const one = db.prepare<[string], Row & { course_id: string }>(`${select} WHERE d.id = ?`)
  const insert = db.prepare(
    `INSERT INTO decision (id, course_id, seq, kind, summary, changes, effect, reason, made_by, made_at, version)
     VALUES (@id, @courseId, (SELECT coalesce(max(seq), 0) + 1 FROM decision WHERE course_id = @courseId),
       @kind, @summary, @changes, @effect, @reason, @by, @at, (SELECT version + 1 FROM course WHERE id = @courseId))`,
  )
  const withdrawn = db.prepare(
    `UPDATE decision SET withdrawn_by = ?, withdrawn_at = ?, withdrawn_reason = ?,
       withdrawn_version = (SELECT version + 1 FROM course WHERE id = course_id) WHERE id = ?`,
  )
  const since = db.prepare<[{ courseId: string; version: number }], Row & { version: number | null; withdrawn_version: number | null }>(
    `${select} WHERE d.course_id = @courseId AND (d.version > @version OR d.withdrawn_version > @version) ORDER BY d.seq DESC`,
  )
  const insertAgreed = db.prepare(
    `INSERT INTO agreed_mark (script_id, decision_id, mark, rule, in_force, over)
     VALUES (@scriptId, @decisionId, @mark, @rule, 0, ${readingsOf('@scriptId')})`,
  )
  const noneInForce = db.prepare(
    `UPDATE agreed_mark SET in_force = 0 WHERE in_force = 1 AND decision_id IN (SELECT id FROM decision WHERE course_id = ?)`,
  )
  // The latest decision that is not withdrawn has the word on a script.
  const latestInForce = db.prepare(
    `UPDATE agreed_mark SET in_force = 1 WHERE rowid IN (
       SELECT rowid FROM (
         SELECT a.rowid, row_number() OVER (PARTITION BY a.script_id ORDER BY d.seq DESC) AS place FROM agreed_mark a
         JOIN decision d ON d.id = a.decision_id WHERE d.course_id = ? AND d.withdrawn_at IS NULL) WHERE place = 1)`,
  )
  const insertCarried = db.prepare(
    `INSERT INTO carried_reading (decision_id, reading_id, version, standard_id, picks, judgement, mark)
     SELECT @id, r.id, @version, @standardId, @picks, @judgement, @mark FROM reading r WHERE r.script_id = @scriptId AND r.marker_id = @markerId`,
  )
  // What was settled over readings that were carried over by it is open again.
  const holdAnew = db.prepare(
    `UPDATE agreed_mark SET holds = ${holdsOver('over', 'agreed_mark.script_id')}
     WHERE script_id IN (SELECT r.script_id FROM carried_reading c JOIN reading r ON r.id = c.reading_id WHERE c.decision_id = ?)`,
  )
  const settleAgain = (courseId: string) => {
    noneInForce.run(courseId)
    latestInForce.run(courseId)
  }

  return {
    all: (courseId: string): Decision[] => all.all(courseId).map(toDecision),
    get(id: string, courseId?: string): Decision | null {
      const row = one.get(id)
      return row && (courseId === undefined || row.course_id === courseId) ? toDecision(row) : null
    },
    /** What was decided, or taken back, since a version of the course; the latest first. */
    since: (courseId: string, version: number): DecidedSince[] =>
      since.all({ courseId, version }).map((r) => ({ ...toDecision(r), made: r.version ?? 0, takenBack: r.withdrawn_version })),
    add(d: NewDecision): string {
      insert.run({ ...d, changes: JSON.stringify(d.changes), effect: d.effect && JSON.stringify(d.effect), at: now() })
      // First, so that what is settled with it is settled over the readings as they count then.
      for (const { standardId, readings } of d.changes.filter((c) => c.kind === 'carry'))
        for (const r of readings) insertCarried.run({ id: d.id, standardId, judgement: null, ...r, picks: JSON.stringify(r.picks) })
      const settled = d.changes.filter((c) => c.kind === 'settle' || c.kind === 'reopen')
      for (const c of settled) {
        const [mark, rule] = c.kind === 'settle' ? [c.mark, JSON.stringify(c.rule)] : [null, null]
        insertAgreed.run({ scriptId: c.scriptId, decisionId: d.id, mark, rule })
      }
      if (settled.length > 0) settleAgain(d.courseId)
      return d.id
    },
    withdraw(courseId: string, id: string, by: string, reason: string): void {
      withdrawn.run(by, now(), reason, id)
      settleAgain(courseId)
      holdAnew.run(id)
    },
  }
}

const toDecision = (r: Row): Decision => ({
  id: r.id,
  kind: r.kind,
  summary: r.summary,
  changes: JSON.parse(r.changes) as Change[],
  effect: r.effect === null ? null : (JSON.parse(r.effect) as Effect),
  reason: r.reason,
  by: r.by_name,
  at: r.made_at,
  withdrawn: r.withdrawn_at === null ? null : { by: r.withdrawn_name!, at: r.withdrawn_at, reason: r.withdrawn_reason ?? '' },
})
