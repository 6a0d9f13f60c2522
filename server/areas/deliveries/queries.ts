import type { Status } from '#core/grades'
import { countsAnew } from '#core/roll'
import type { DeliveryRow } from '#contract'
import { now, type Db } from '../../kernel/db/open'

export interface NewDelivery {
  id: string
  courseId: string
  fileName: string
  candidate: string
  assessment: string
  cameAt: string
  kind: DeliveryRow['kind']
  content: Buffer
  hash: string
}

export type Sorted =
  | { state: 'placed'; scriptId: string; attempt: number; why: string | null; by: string | null }
  | { state: 'waiting' | 'set aside'; why: string; by: string | null }

export interface Known {
  scriptId: string | null
  status: Status
  hashes: string[]
  attempts: number
}

const SHOWN = 400
const ROW = `d.id, d.file_name AS fileName, d.kind, d.candidate, d.assessment, d.came_at AS cameAt, d.state, d.why, s.student_id AS studentId,
  s.assessment_id AS assessmentId, d.attempt, coalesce(s.days_late, 0) AS daysLate, p.name AS sortedBy
  FROM delivery d LEFT JOIN script s ON s.id = d.script_id LEFT JOIN person p ON p.id = d.sorted_by`

/** Plain SQL of what came in. Writes go on inside the caller's transaction. */
export function deliveryQueries(db: Db) {
  const list = db.prepare<[string], DeliveryRow>(
    `SELECT ${ROW} WHERE d.course_id = ? ORDER BY d.state <> 'waiting', d.came_at DESC, d.rowid DESC LIMIT ${SHOWN}`,
  )
  const one = db.prepare<[string, string], DeliveryRow>(`SELECT ${ROW} WHERE d.id = ? AND d.course_id = ?`)
  const counts = db.prepare<[string], { state: DeliveryRow['state']; n: number }>(
    'SELECT state, count(*) AS n FROM delivery WHERE course_id = ? GROUP BY state',
  )
  const taken = db.prepare<[string], { key: string }>("SELECT file_name || ' ' || came_at AS key FROM delivery WHERE course_id = ?")
  const content = db.prepare<[string, string], { content: Buffer; kind: DeliveryRow['kind']; fileName: string }>(
    'SELECT content, kind, file_name AS fileName FROM delivery WHERE id = ? AND course_id = ?',
  )
  const meta = db.prepare<[string], { hash: string; cameAt: string }>('SELECT hash, came_at AS cameAt FROM delivery WHERE id = ?')
  const insert = db.prepare(
    `INSERT INTO delivery (id, course_id, file_name, candidate, assessment, came_at, kind, content, hash, state, why, script_id, attempt, sorted_by)
     VALUES (@id, @courseId, @fileName, @candidate, @assessment, @cameAt, @kind, @content, @hash, @state, @why, @scriptId, @attempt, @by)`,
  )
  const sort = db.prepare(
    'UPDATE delivery SET state = @state, why = @why, script_id = @scriptId, attempt = @attempt, sorted_by = @by WHERE id = @id',
  )
  const script = db.prepare<
    [string, string],
    { id: string; status: Status; daysLate: number; text: number; read: number; entered: number | null; version: number }
  >(
    `SELECT id, status, days_late AS daysLate, text IS NOT NULL AS text, entered, version,
       EXISTS (SELECT 1 FROM reading r WHERE r.script_id = script.id AND r.state = 'handed in') AS read
     FROM script WHERE student_id = ? AND assessment_id = ?`,
  )
  const hashes = db.prepare<[string], { hash: string }>('SELECT hash FROM delivery WHERE script_id = ? ORDER BY attempt')
  const kept = db.prepare<[string, string], { times: number; bytes: number }>(
    `SELECT count(*) AS times, coalesce(sum(length(d.content)), 0) AS bytes FROM delivery d JOIN script s ON s.id = d.script_id
     WHERE s.student_id = ? AND s.assessment_id = ?`,
  )
  const insertScript = db.prepare(
    "INSERT INTO script (id, student_id, assessment_id, status) VALUES (?, ?, ?, 'in') ON CONFLICT DO NOTHING",
  )
  const came = db.prepare('UPDATE script SET came_at = ?, status = ?, days_late = ?, version = version + 1 WHERE id = ?')
  const cameOnly = db.prepare('UPDATE script SET came_at = ? WHERE id = ?')
  const before = db.prepare('UPDATE script SET came_at = (SELECT max(came_at) FROM delivery WHERE script_id = ?) WHERE id = ?')
  const scriptOf = db.prepare<[string], { scriptId: string | null }>('SELECT script_id AS scriptId FROM delivery WHERE id = ?')
  const begun = db.prepare<[string], { n: number }>(
    `SELECT count(*) AS n FROM delivery d WHERE d.id = ? AND (
       EXISTS (SELECT 1 FROM delivery later WHERE later.script_id = d.script_id AND later.attempt > d.attempt)
       OR EXISTS (SELECT 1 FROM reading r WHERE r.script_id = d.script_id
         AND (r.attempt >= d.attempt OR EXISTS (SELECT 1 FROM next_reading n WHERE n.reading_id = r.id))))`,
  )
  const keepState = db.prepare(
    `INSERT INTO script_state (script_id, version, status, days_late, entered, by_id, at)
     SELECT id, version, status, days_late, entered, ?, ? FROM script WHERE id = ?`,
  )

  const columns = (sorted: Sorted) => ({
    state: sorted.state,
    why: sorted.why,
    scriptId: sorted.state === 'placed' ? sorted.scriptId : null,
    attempt: sorted.state === 'placed' ? sorted.attempt : null,
    by: sorted.by,
  })
  return {
    list: (courseId: string) => list.all(courseId),
    one: (courseId: string, id: string) => one.get(id, courseId) ?? null,
    counts(courseId: string): { placed: number; waiting: number; setAside: number } {
      const by = new Map(counts.all(courseId).map((c) => [c.state, c.n]))
      return { placed: by.get('placed') ?? 0, waiting: by.get('waiting') ?? 0, setAside: by.get('set aside') ?? 0 }
    },
    taken: (courseId: string) => new Set(taken.all(courseId).map((t) => t.key)),
    content: (courseId: string, id: string) => content.get(id, courseId) ?? null,
    meta: (id: string) => meta.get(id)!,
    insert: (row: NewDelivery, sorted: Sorted) => void insert.run({ ...row, ...columns(sorted) }),
    sort: (id: string, sorted: Sorted) => void sort.run({ id, ...columns(sorted) }),
    /** Whether something was built on where it is placed: a reading, or a later attempt. */
    isBuiltOn: (id: string) => begun.get(id)!.n > 0,
    /** Takes it off its script again; how late the script counts is left for a person to say. */
    takeOff(id: string, why: string, by: string): void {
      const scriptId = scriptOf.get(id)!.scriptId
      sort.run({ id, ...columns({ state: 'waiting', why, by }) })
      if (scriptId) before.run(scriptId, scriptId)
    },
    known(studentId: string, assessmentId: string): Known {
      const row = script.get(studentId, assessmentId)
      const own = row ? hashes.all(row.id).map((h) => h.hash) : []
      return { scriptId: row?.id ?? null, status: row?.status ?? 'in', hashes: own, attempts: own.length + (row?.text ? 1 : 0) }
    },
    /** How many versions of a work are kept, and their bytes. */
    kept: (studentId: string, assessmentId: string) => kept.get(studentId, assessmentId)!,
    /** Whether there is a mark on it, typed or read. */
    isMarked(studentId: string, assessmentId: string): boolean {
      const row = script.get(studentId, assessmentId)
      return row !== undefined && (row.entered !== null || row.read === 1)
    },
    /**
     * The script has work: when it came, and how late; of one that is held that is left for a person to say.
     * @returns what its lead should know: how it counts otherwise than what was marked before, or was missing; null where that is nothing
     */
    arrived(
      scriptId: string,
      arrival: { studentId: string; assessmentId: string; cameAt: string; daysLate: number },
      by: string,
    ): string | null {
      insertScript.run(scriptId, arrival.studentId, arrival.assessmentId)
      const row = script.get(arrival.studentId, arrival.assessmentId)!
      const [status, daysLate] = arrival.daysLate > 0 ? (['late', arrival.daysLate] as const) : (['in', 0] as const)
      if (row.status === 'held' || (row.status === status && row.daysLate === daysLate)) {
        cameOnly.run(arrival.cameAt, scriptId)
        return null
      }
      came.run(arrival.cameAt, status, daysLate, scriptId)
      keepState.run(by, now(), scriptId)
      return countsAnew(row, daysLate)
    },
  }
}
