import { randomUUID } from 'node:crypto'
import type { Status } from '#core/grades'
import type { KeptComment, ReadingBody } from '#contract'
import { isOnRoll } from '../../kernel/course/allotments'
import { asCarried } from '../../kernel/course/readings-of'
import { now, type Db } from '../../kernel/db/open'

export interface OwnReadingRow {
  id: string
  scriptId: string
  standardId: string | null
  mark: number | null
  picks: string
  judgement: string | null
  comment: string
  criterionComments: string
  notes: string
  state: 'draft' | 'handed in'
  version: number
  attempt: number
  afterSeeing: 0 | 1
}

export interface DeskScriptRow {
  id: string
  status: Status
  daysLate: number
  cameAt: string | null
}

/** What of a reading its marker writes, as columns. */
export const bodyColumns = (body: ReadingBody) => ({
  picks: JSON.stringify(body.judged.picks),
  judgement: body.judged.judgement,
  comment: body.comment,
  criterionComments: JSON.stringify(body.criterionComments),
  notes: body.notes,
})

export const MOST_IN_STOCK = 500
/** States of one reading that are kept; nobody takes one back so often in earnest. */
export const MOST_STATES = 300
const DRAFT_STATES = { everyMs: 5 * 60_000, most: 40 }

/** Plain SQL of the desk. Writes go on inside the caller's transaction. */
export function deskQueries(db: Db) {
  const pile = db.prepare<
    [string, string],
    { studentId: string; state: 'draft' | 'handed in' | null; mark: number | null; status: Status; again: 0 | 1; begun: 0 | 1 }
  >(`
    SELECT a.student_id AS studentId, r.state, ${asCarried('mark')} AS mark, coalesce(s.status, 'in') AS status,
      r.state = 'handed in' AND EXISTS (SELECT 1 FROM delivery d WHERE d.script_id = s.id AND d.attempt > r.attempt) AS again,
      EXISTS (SELECT 1 FROM next_reading n WHERE n.reading_id = r.id) AS begun
    FROM allotment a
    LEFT JOIN script s ON s.assessment_id = a.assessment_id AND s.student_id = a.student_id
    LEFT JOIN reading r ON r.script_id = s.id AND r.marker_id = a.marker_id
    WHERE a.assessment_id = ? AND a.marker_id = ? AND (r.state = 'handed in' OR ${isOnRoll('a.student_id')}) ORDER BY a.place`)
  const piles = db.prepare<[string, string], { assessmentId: string }>(`
    SELECT DISTINCT a.assessment_id AS assessmentId FROM allotment a JOIN assessment x ON x.id = a.assessment_id JOIN component c ON c.id = x.component_id
    WHERE x.course_id = ? AND a.marker_id = ? AND x.away = 0 ORDER BY c.position, x.position`)
  const script = db.prepare<[string, string], DeskScriptRow>(
    'SELECT id, status, days_late AS daysLate, came_at AS cameAt FROM script WHERE assessment_id = ? AND student_id = ?',
  )
  const READING = `SELECT r.id, r.script_id AS scriptId, ${asCarried('standard_id')} AS standardId, ${asCarried('mark')} AS mark, ${asCarried('picks')} AS picks, ${asCarried('judgement')} AS judgement, r.comment, r.criterion_comments AS criterionComments,
    r.notes, r.state, r.version, r.attempt, r.after_seeing AS afterSeeing`
  const own = db.prepare<[string, string], OwnReadingRow>(`${READING} FROM reading r WHERE r.script_id = ? AND r.marker_id = ?`)
  const others = db.prepare<[string, string], OwnReadingRow>(
    `${READING} FROM reading r WHERE r.script_id = ? AND r.marker_id <> ? AND r.state = 'handed in' ORDER BY r.handed_in_at, r.rowid`,
  )
  // Nothing is recorded in the sheet by that, which is what version 0 says.
  const insertScript = db.prepare(
    "INSERT INTO script (id, student_id, assessment_id, status, version) VALUES (?, ?, ?, 'in', 0) ON CONFLICT DO NOTHING",
  )
  const insert = db.prepare(
    `INSERT INTO reading (id, script_id, marker_id, standard_id, mark, picks, judgement, comment, criterion_comments, notes, state, handed_in_at, edited_at, attempt)
     VALUES (@id, @scriptId, @markerId, @standardId, @mark, @picks, @judgement, @comment, @criterionComments, @notes, @state, @handedInAt, @at, @attempt)`,
  )
  const keepState = db.prepare(
    `INSERT INTO reading_state (reading_id, version, mark, picks, state, at, judgement, comment, criterion_comments, notes, attempt, after_seeing)
     SELECT id, version, mark, picks, state, @at, judgement, comment, criterion_comments, notes, attempt, after_seeing FROM reading
     WHERE id = @id AND (state = 'handed in' OR @state = 'handed in' OR (
       (SELECT count(*) FROM reading_state s WHERE s.reading_id = @id AND s.state = 'draft') < @most
       AND NOT EXISTS (SELECT 1 FROM reading_state s WHERE s.reading_id = @id AND s.state = 'draft' AND s.at > @since)))`,
  )
  const update = db.prepare(
    `UPDATE reading AS r SET standard_id = ${asCarried('standard_id')}, mark = @mark, picks = @picks, judgement = @judgement, comment = @comment, criterion_comments = @criterionComments,
       notes = @notes, state = @state, handed_in_at = @handedInAt, edited_at = @at, attempt = @attempt, after_seeing = max(after_seeing, @afterSeeing),
       version = version + 1 WHERE id = @id`,
  )
  const saw = db.prepare('INSERT INTO seen_others (reading_id, at) VALUES (?, ?) ON CONFLICT DO NOTHING')
  const seen = db.prepare<[string], { at: string }>('SELECT at FROM seen_others WHERE reading_id = ?')
  const settled = db.prepare<[string], { name: string }>(
    `SELECT p.name FROM last_word g JOIN decision d ON d.id = g.decision_id JOIN person p ON p.id = d.made_by
     WHERE g.script_id = ? AND g.mark IS NOT NULL`,
  )
  const comments = db.prepare<[string], KeptComment>(
    'SELECT id, words, used FROM kept_comment WHERE person_id = ? ORDER BY used DESC, at DESC LIMIT 500',
  )
  const keepComment = db.prepare<[string, string, string, string], { id: string }>(
    `INSERT INTO kept_comment (id, person_id, words, used, at) VALUES (?, ?, ?, 1, ?)
     ON CONFLICT (person_id, words) DO UPDATE SET used = used + 1 RETURNING id`,
  )
  const inStock = db.prepare<[{ person: string; words: string }], { n: number; there: number }>(
    'SELECT count(*) AS n, coalesce(sum(words = @words), 0) AS there FROM kept_comment WHERE person_id = @person',
  )
  const states = db.prepare<[string], { n: number }>('SELECT count(*) AS n FROM reading_state WHERE reading_id = ?')
  const dropComment = db.prepare('DELETE FROM kept_comment WHERE id = ? AND person_id = ?')

  const columns = (body: ReadingBody, mark: number | null, state: 'draft' | 'handed in', attempt: number, at: string) => ({
    mark,
    ...bodyColumns(body),
    state,
    attempt,
    handedInAt: state === 'handed in' ? at : null,
    at,
  })
  return {
    piles: (courseId: string, markerId: string) => piles.all(courseId, markerId).map((p) => p.assessmentId),
    pile: (assessmentId: string, markerId: string) =>
      pile.all(assessmentId, markerId).map(({ again, begun, ...s }) => {
        const anew = again === 1
        return { ...s, again: anew, state: anew ? (begun ? ('draft' as const) : null) : s.state, mark: anew ? null : s.mark }
      }),
    script: (assessmentId: string, studentId: string) => script.get(assessmentId, studentId) ?? null,
    own: (scriptId: string, markerId: string) => own.get(scriptId, markerId) ?? null,
    others: (scriptId: string, markerId: string) => others.all(scriptId, markerId),
    /** Who settled the script; null where nobody has. */
    settledBy: (scriptId: string) => settled.get(scriptId)?.name ?? null,
    begin(
      ids: { scriptId: string; assessmentId: string; studentId: string; markerId: string; standardId: string | null },
      body: ReadingBody,
      mark: number | null,
      state: 'draft' | 'handed in',
      attempt: number,
    ): void {
      const { scriptId, markerId, standardId } = ids
      insertScript.run(scriptId, ids.studentId, ids.assessmentId)
      insert.run({ id: `${scriptId}/${markerId}`, scriptId, markerId, standardId, ...columns(body, mark, state, attempt, now()) })
    },
    /**
     * Changes a reading and keeps the state before: every one that was handed in, and of drafts one every few minutes, so that what
     * is kept for good stays bounded.
     */
    change(id: string, body: ReadingBody, mark: number | null, state: 'draft' | 'handed in', attempt: number, afterSeeing = false): void {
      const at = now()
      const since = new Date(Date.parse(at) - DRAFT_STATES.everyMs).toISOString()
      keepState.run({ id, at, state, since, most: DRAFT_STATES.most })
      update.run({ id, ...columns(body, mark, state, attempt, at), afterSeeing: Number(afterSeeing) })
    },
    /** Notes that a marker was shown others' readings beside their own. */
    saw: (readingId: string) => void saw.run(readingId, now()),
    hasSeen: (readingId: string) => seen.get(readingId) !== undefined,
    comments: (personId: string) => comments.all(personId),
    /** @returns null where the stock is full and has no such comment yet */
    keepComment(personId: string, words: string): { id: string } | null {
      const { n, there } = inStock.get({ person: personId, words })!
      return there === 0 && n >= MOST_IN_STOCK ? null : keepComment.get(randomUUID(), personId, words, now())!
    },
    /** How many states of a reading are kept. */
    states: (readingId: string) => states.get(readingId)!.n,
    dropComment: (personId: string, id: string) => dropComment.run(id, personId).changes > 0,
  }
}
