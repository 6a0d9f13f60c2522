import { group } from 'd3-array'
import type { IssueHead, Signers } from '#contract'
import { HttpProblem } from '../problem'
import type { Db } from '../db/open'

interface Row {
  number: number
  hash: string
  made_at: string
  signers: string
  boundaries: string
  counts: string
  reopened_name: string | null
  reopened_at: string | null
  reopened_reason: string | null
}

type Signed = IssueHead['signatures'][number]
type Objected = Omit<IssueHead['objections'][number], 'own'> & { personId: string }

/** The roles that have yet to sign: each signature takes the place of one. */
export function waitsFor(signers: Signers, signatures: readonly { role: string }[]): Signers {
  const left = [...signers]
  for (const { role } of signatures) {
    const at = left.indexOf(role as Signers[number])
    if (at >= 0) left.splice(at, 1)
  }
  return left
}

/** The issues of a course: who signed, who objects, and which one counts. */
export function issuesOf(db: Db) {
  const columns = 'i.number, i.hash, i.made_at, i.signers, i.boundaries, i.counts, i.reopened_at, i.reopened_reason'
  const rows = db.prepare<[string], Row>(
    `SELECT ${columns}, p.name AS reopened_name FROM issue i LEFT JOIN person p ON p.id = i.reopened_by WHERE i.course_id = ? ORDER BY i.number DESC`,
  )
  const signatures = db.prepare<[string], Signed & { number: number }>(
    `SELECT s.number, p.name AS by, s.role, s.at, s.statement, s.hash FROM signature s JOIN person p ON p.id = s.person_id
     WHERE s.course_id = ? ORDER BY s.at`,
  )
  const objections = db.prepare<[string], Objected & { number: number }>(
    `SELECT o.number, o.id, p.name AS by, o.person_id AS personId, o.role, o.at, o.reason, o.taken_back_at AS takenBack
     FROM objection o JOIN person p ON p.id = o.person_id WHERE o.course_id = ? ORDER BY o.at`,
  )
  const contents = db.prepare<[string, number], { content: string }>('SELECT content FROM issue WHERE course_id = ? AND number = ?')

  /** @param personId whose objections are their own */
  function heads(courseId: string, personId: string | null = null): IssueHead[] {
    const signed = group(signatures.all(courseId), (s) => s.number)
    const objected = group(objections.all(courseId), (o) => o.number)
    let found = false
    return rows.all(courseId).map((r): IssueHead => {
      const own = (signed.get(r.number) ?? []).map(({ by, role, at, statement, hash }) => ({ by, role, at, statement, hash }))
      const against = objected.get(r.number) ?? []
      const waits = waitsFor(JSON.parse(r.signers) as Signers, own)
      const counts = JSON.parse(r.counts) as Record<string, number>
      const boundaries = JSON.parse(r.boundaries) as IssueHead['boundaries']
      // An objection that stood when it was reopened is never taken back.
      const closed = r.reopened_at ?? '9'
      const counted = waits.length === 0 && against.every((o) => o.takenBack !== null && o.takenBack < closed)
      // The latest that counts, and none before it.
      const inForce = !found && counted
      found ||= inForce
      return {
        number: r.number,
        hash: r.hash,
        at: r.made_at,
        boundaries,
        counts: boundaries.map(({ grade }) => ({ grade, count: counts[grade] ?? 0 })),
        ungraded: counts[''] ?? 0,
        signatures: own,
        objections: against.map(({ id, by, role, at, reason, takenBack, personId: who }) => ({
          id,
          by,
          role,
          at,
          reason,
          takenBack,
          own: who === personId,
        })),
        waitsFor: waits,
        counted,
        inForce,
        reopened: r.reopened_at === null ? null : { by: r.reopened_name!, at: r.reopened_at, reason: r.reopened_reason! },
      }
    })
  }

  return {
    heads,
    /** @throws HttpProblem 404 where there is no such issue */
    head(courseId: string, number: number, personId: string | null = null): IssueHead {
      const head = heads(courseId, personId).find((h) => h.number === number)
      if (!head) throw new HttpProblem(404, `There is no issue ${number}.`)
      return head
    },
    /** The issue that counts; null while none is signed by all who must. */
    inForce: (courseId: string): IssueHead | null => heads(courseId).find((h) => h.inForce) ?? null,
    /** The frozen content, as it was written. @throws HttpProblem 404 where there is no such issue */
    content(courseId: string, number: number): string {
      const row = contents.get(courseId, number)
      if (!row) throw new HttpProblem(404, `There is no issue ${number}.`)
      return row.content
    },
  }
}
