import { randomUUID } from 'node:crypto'
import { spreadOf, withinTolerance } from '#core/agree'
import { SEES_NOTHING, type AgreedBetween, type BetweenTwo, type Sees } from '#contract'
import { now, type Db } from '../../kernel/db/open'
import { HttpProblem } from '../../kernel/problem'
import { holdsOver, readingsOf } from '../../kernel/course/readings-of'
import { toAssessment, type AssessmentRow } from '../../kernel/course/rows'

interface Row {
  id: string
  byId: string
  mark: number
  reason: string
  at: string
  agrees: 0 | 1 | null
  answer: string | null
  withdrawn: 0 | 1
  holds: 0 | 1
}
type Told = Pick<Row, 'agrees' | 'withdrawn' | 'holds'>

/** Two readers of a script who disagree, and what they propose to each other. */
export function betweenTwo(db: Db) {
  const HOLDS = holdsOver('b.over', 'b.script_id')
  const SAID = `b.mark, b.reason, b.at, b.agrees, b.answer, b.withdrawn_at IS NOT NULL AS withdrawn, ${HOLDS} AS holds`
  const said = db.prepare<[string], Row>(
    `SELECT b.id, b.by_id AS byId, ${SAID} FROM between_two b WHERE b.script_id = ? ORDER BY b.at, b.rowid`,
  )
  // Begins with those few (CROSS JOIN keeps that order), and not with every script of the course.
  const all = db.prepare<[string], Omit<AgreedBetween, keyof Told> & Told>(
    `SELECT b.script_id AS scriptId, p.name AS "by", q.name AS answeredBy, ${SAID}
     FROM between_two b CROSS JOIN script s ON s.id = b.script_id JOIN assessment a ON a.id = s.assessment_id
     JOIN person p ON p.id = b.by_id LEFT JOIN person q ON q.id = b.answered_by
     WHERE a.course_id = ? ORDER BY b.at, b.rowid`,
  )
  const readings = db.prepare<[string], { markerId: string; mark: number }>(
    `SELECT r.marker_id AS markerId, coalesce(c.mark, r.mark) AS mark FROM reading r
     LEFT JOIN carried_in_force c ON c.reading_id = r.id AND c.version = r.version WHERE r.script_id = ? AND r.state = 'handed in'`,
  )
  const settled = db.prepare<[string], { mark: number | null }>('SELECT mark FROM last_word WHERE script_id = ?')
  const insert = db.prepare(
    `INSERT INTO between_two (id, script_id, by_id, mark, reason, at, over)
     VALUES (@id, @scriptId, @by, @mark, @reason, @at, ${readingsOf('@scriptId')})`,
  )
  const answer = db.prepare('UPDATE between_two SET answered_by = ?, agrees = ?, answer = ?, answered_at = ? WHERE id = ?')

  const withdraw = db.prepare('UPDATE between_two SET withdrawn_at = ? WHERE id = ?')
  const readers = db.prepare<[string, string], object>(
    'SELECT 1 FROM reading r WHERE r.script_id = ? AND r.marker_id = ? AND (r.version > 1 OR r.handed_in_at IS NOT NULL)',
  )

  /** What the other of two readers gave; null where they have nothing to agree on, or may not. */
  function otherOf(row: AssessmentRow, scriptId: string, markerId: string): number | null {
    const sees: Sees = { ...SEES_NOTHING, ...(JSON.parse(row.sees) as Partial<Sees>) }
    if (!sees.between || toAssessment(row).use.hidePoints) return null
    const both = readings.all(scriptId)
    const other = both.find((r) => r.markerId !== markerId)
    if (both.length !== 2 || !other || both.every((r) => r.markerId !== markerId)) return null
    if (withinTolerance(spreadOf(both)!, row.tolerance) || typeof settled.get(scriptId)?.mark === 'number') return null
    return other.mark
  }

  const standing = (scriptId: string): Row | null => {
    const last = said.all(scriptId).findLast((b) => !b.withdrawn)
    // What was proposed for other readings is over.
    return last?.holds ? last : null
  }
  const told = ({ agrees, withdrawn, holds }: Told) => ({
    agrees: agrees === null ? null : !!agrees,
    withdrawn: !!withdrawn,
    holds: !!holds,
  })

  /** Why there is nothing to answer any more. */
  function whyTooLate(scriptId: string): string {
    const mark = settled.get(scriptId)?.mark
    if (typeof mark === 'number') return `The lead has settled this script meanwhile, at ${mark}.`
    const last = said.all(scriptId).at(-1)
    if (last?.withdrawn) return 'The other reader has withdrawn that proposal meanwhile.'
    if (last && !last.holds) return 'One of the two readings has changed since that was proposed, so it does not stand any more.'
    return 'Nothing waits for your answer here: it was answered already.'
  }

  return {
    /** As one of the two sees it. */
    of(row: AssessmentRow, scriptId: string, markerId: string): BetweenTwo | null {
      const other = otherOf(row, scriptId, markerId)
      const earlier = said.all(scriptId)
      // What they said to each other stays for both, also once there is nothing to agree on any more.
      const isOneOf = readers.get(scriptId, markerId) !== undefined && !toAssessment(row).use.hidePoints
      if (other === null && (earlier.length === 0 || !isOneOf)) return null
      const last = other === null ? null : standing(scriptId)
      return {
        other,
        said: earlier.map(({ id: _, byId, ...b }) => ({ ...b, ...told(b), mine: byId === markerId })),
        proposal: last && {
          mine: last.byId === markerId,
          mark: last.mark,
          reason: last.reason,
          agrees: last.agrees === null ? null : !!last.agrees,
          answer: last.answer,
        },
      }
    },
    /** @throws HttpProblem where there is nothing to agree on, or the other has proposed meanwhile */
    propose(row: AssessmentRow, scriptId: string, markerId: string, { mark, reason }: { mark: number; reason: string }): void {
      if (otherOf(row, scriptId, markerId) === null) throw new HttpProblem(409, 'There is nothing to agree on here (any more).')
      if (mark > row.out_of) throw new HttpProblem(422, `${mark} is over the maximum of ${row.out_of}.`, { field: 'mark' })
      const last = standing(scriptId)
      if (last && last.agrees === null && last.byId !== markerId)
        throw new HttpProblem(409, 'The other reader has proposed a mark meanwhile: answer that first.')
      if (last?.agrees) throw new HttpProblem(409, 'You two agreed on a mark already.')
      insert.run({ id: randomUUID(), scriptId, by: markerId, mark, reason, at: now() })
    },
    /** @throws HttpProblem where nothing waits for this reader's answer */
    answer(row: AssessmentRow, scriptId: string, markerId: string, { agrees, words }: { agrees: boolean; words: string }): void {
      const last = otherOf(row, scriptId, markerId) === null ? null : standing(scriptId)
      if (!last || last.agrees !== null || last.byId === markerId) throw new HttpProblem(409, whyTooLate(scriptId))
      if (!agrees && words === '') throw new HttpProblem(422, 'Say why not, in a few words.', { field: 'words' })
      answer.run(markerId, Number(agrees), words, now(), last.id)
    },
    /** @throws HttpProblem where nothing of this reader's waits for an answer */
    withdraw(scriptId: string, markerId: string): void {
      const last = standing(scriptId)
      if (!last || last.byId !== markerId) throw new HttpProblem(409, 'There is no proposal of yours here to withdraw.')
      if (last.agrees !== null) throw new HttpProblem(409, 'The other reader has answered it meanwhile: it stays.')
      withdraw.run(now(), last.id)
    },
    all: (courseId: string): AgreedBetween[] => all.all(courseId).map((r) => ({ ...r, ...told(r) })),
  }
}
