import { randomUUID } from 'node:crypto'
import { rollup } from 'd3-array'
import { routes, type IssueContent, type IssueHead, type MakingStep, type Signers } from '#contract'
import type { AuditList } from '../../kernel/access/audit'
import { decisions } from '../../kernel/course/decisions'
import type { CourseWrites } from '../../kernel/course/course-writes'
import { issuesOf } from '../../kernel/course/issues'
import type { TableLoader } from '../../kernel/course/load-table'
import { packedTable } from '../../kernel/course/packed-table'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { orProblem } from '../../kernel/or-problem'
import { HttpProblem } from '../../kernel/problem'
import { sendFile } from '../../kernel/send-file'
import type { IssueMade, ToFreeze } from '../../workers/issue'
import type { WorkerPool } from '../../workers/pool'
import { confirmQueries } from './queries'

interface By {
  id: string
  name: string
}

/** Told of an issue that counts from now on, and of one that is opened again. */
interface Announces {
  changed: (courseId: string, number: number, from: By) => Promise<unknown>
  reopened: (courseId: string, head: IssueHead, reason: string, from: By) => Promise<unknown>
}

/** How often results are made anew where somebody writes meanwhile. */
const TRIES = 3

interface Needs {
  tables: TableLoader
  pool: WorkerPool
  audit: AuditList
  announcing: Announces
}

/** Confirming: what is signed is frozen, numbered and counts once all who must have signed it. */
export function confirmRoutes(handle: Handle, db: Db, writes: CourseWrites, { tables, pool, audit, announcing }: Needs): void {
  const record = decisions(db)
  const issues = issuesOf(db)
  const file = db.name
  const { version, latest, insert, sign, signed, reopened, object, takeBack, setSigners, inRole, decided } = confirmQueries(db)
  /** The course as it stands, ready to be frozen by a worker. */
  async function toFreeze(courseId: string): Promise<ToFreeze> {
    const table = await packedTable(await tables.loadInTurns(courseId))
    return { table, number: last(courseId) + 1, decisions: decided.all(courseId) }
  }
  const signersOf = (courseId: string) => JSON.parse(version.get(courseId)!.signers) as Signers
  /** @throws HttpProblem 409 where nobody could ever sign it as is asked for */
  function requireSigners(courseId: string, signers: Signers): void {
    for (const role of new Set(signers)) {
      const [wanted, there] = [signers.filter((r) => r === role).length, inRole.get(courseId, role)!.n]
      if (there < wanted)
        throw new HttpProblem(
          409,
          `${wanted === 1 ? `Somebody who is ${role === 'lead' ? 'a lead' : 'external'}` : `${wanted} leads`} must sign, and ${there === 0 ? 'nobody here is' : `there is only ${there}`}: add them at Set out, People, or change who must sign.`,
        )
    }
  }
  const last = (courseId: string): number => latest.get(courseId)!.number ?? 0
  /** The latest issue, which is not reopened. */
  function current(courseId: string, number: number, personId: string): IssueHead {
    const head = issues.head(courseId, number, personId)
    if (head.reopened || number !== last(courseId)) throw new HttpProblem(409, `Issue ${number} was reopened: sign the next one.`)
    return head
  }

  handle(routes.issues, ({ params, me }) => issues.heads(params.courseId, me.id))
  handle(routes.issue, ({ params }) => JSON.parse(issues.content(params.courseId, params.number)) as IssueContent)
  handle(routes.signing, ({ params }) => ({ signers: signersOf(params.courseId) }))
  handle(routes.setSigning, ({ params: { courseId }, body: { signers }, me }) => {
    if (!signers.includes('lead'))
      throw new HttpProblem(422, 'A lead signs first: who freezes the results answers for them.', { field: 'signers' })
    writes.writeBesideOpen(courseId, () => {
      setSigners.run(JSON.stringify(signers), courseId)
      audit.note({ kind: 'course changed', by: me.id, about: null, courseId, words: `must sign: ${signers.join(', ')}` })
    })
    return { signers }
  })

  handle(routes.compareIssues, async ({ params: { courseId, number, to }, me }) => {
    issues.head(courseId, number)
    if (to !== 'now') issues.head(courseId, to)
    const against = to === 'now' ? await toFreeze(courseId) : to
    return orProblem(await pool.compareIssues({ file, courseId, from: number, to: against }, { personId: me.id }))
  })

  handle(routes.confirm, async ({ params: { courseId }, body, me, role }) => {
    for (let tries = 0; tries < TRIES; tries++) {
      const number = last(courseId) + 1
      // What is refused anyway is not worked out first.
      writes.requireOpen(courseId)
      requireSigners(courseId, signersOf(courseId))
      const told = (step: MakingStep) => writes.making(courseId, step)
      const made = orProblem(await pool.makeIssue(await toFreeze(courseId), told, { personId: me.id }))
      const head = writes.writeBesideOpen(courseId, () => {
        if (version.get(courseId)!.version !== made.version) return null
        requireClear(made)
        insert.run(
          courseId,
          number,
          made.content,
          made.hash,
          now(),
          version.get(courseId)!.signers,
          JSON.stringify(made.boundaries),
          JSON.stringify(made.counts),
        )
        sign.run(courseId, number, me.id, role, body.statement, now(), made.hash)
        note(courseId, 'confirm', `Issue ${number} confirmed: ${made.students - (made.counts[''] ?? 0)} of ${made.students} with a grade`, {
          reason: body.statement,
          by: me.id,
        })
        return issues.head(courseId, number, me.id)
      })
      if (head) return counted(courseId, head, me)
    }
    throw new HttpProblem(409, 'Marks kept coming in while the results were made, so nothing was frozen. Sign again once it is quiet.')
  })

  handle(routes.countersign, async ({ params: { courseId, number }, body, me, role }) => {
    const head = writes.writeBeside(courseId, () => {
      const head = current(courseId, number, me.id)
      if (head.hash !== body.hash)
        throw new HttpProblem(409, 'What you looked at is not what stands in this issue. Load it again, and sign what you see.')
      if (signed.get(courseId, number, me.id))
        throw new HttpProblem(409, 'You have signed this issue already: the second signature is another person’s.')
      if (head.objections.some((o) => o.own && o.takenBack === null))
        throw new HttpProblem(409, 'You object to this issue. Take your objection back before you sign it.')
      sign.run(courseId, number, me.id, role, body.statement, now(), head.hash)
      return issues.head(courseId, number, me.id)
    })
    return counted(courseId, head, me)
  })

  handle(routes.object, ({ params: { courseId, number }, body, me, role }) =>
    writes.writeBeside(courseId, () => {
      current(courseId, number, me.id)
      object.run(randomUUID(), courseId, number, me.id, role, body.reason, now())
      return issues.head(courseId, number, me.id)
    }),
  )

  handle(routes.takeBackObjection, async ({ params: { courseId, number, objectionId }, me }) => {
    const head = writes.writeBeside(courseId, () => {
      if (issues.head(courseId, number).reopened)
        throw new HttpProblem(409, `Issue ${number} was reopened, and your objection to it is closed: it never counts again.`)
      if (takeBack.run(now(), objectionId, courseId, number, me.id).changes === 0)
        throw new HttpProblem(404, 'There is no such objection of yours that stands.')
      return issues.head(courseId, number, me.id)
    })
    return counted(courseId, head, me)
  })

  handle(routes.reopen, async ({ params: { courseId }, body, me }) => {
    const number = last(courseId)
    const head = number === 0 ? null : issues.head(courseId, number)
    const id = writes.writeBeside(courseId, () => {
      if (!head || head.reopened) throw new HttpProblem(409, 'The course is open already.')
      reopened.run(me.id, now(), body.reason, courseId, number)
      return note(courseId, 'reopen', `Issue ${number} reopened`, { reason: body.reason, by: me.id })
    })
    await announcing.reopened(courseId, head!, body.reason, me)
    return record.get(id)!
  })

  /** Told to those whom it touches, where it counts from now on. */
  async function counted(courseId: string, head: IssueHead, by: By): Promise<IssueHead> {
    if (head.inForce) await announcing.changed(courseId, head.number, by)
    return head
  }

  function note(courseId: string, kind: 'confirm' | 'reopen', summary: string, of: { reason: string; by: string }): string {
    return record.add({ id: randomUUID(), courseId, kind, summary, changes: [], effect: null, ...of })
  }

  for (const [route, as] of [
    [routes.resultsCsv, 'csv'],
    [routes.resultsXlsx, 'xlsx'],
    [routes.resultsJson, 'json'],
  ] as const)
    handle(route, async ({ params: { courseId, number }, me, res }) => {
      const { hash } = issues.head(courseId, number)
      const { code, term } = version.get(courseId)!
      const content = orProblem(await pool.issueFile({ file, courseId, number, as }, { personId: me.id }))
      const name = `${code} ${term} issue ${number} ${hash.slice(0, 12)}`.replace(/\s+/g, '-')
      return sendFile(res, name, as, content)
    })
}

/** @throws HttpProblem 409 where something must be cleared first, or nobody has a grade */
function requireClear({ blocking, counts, students }: IssueMade): void {
  if (blocking.length > 0)
    throw new HttpProblem(
      409,
      `Not yet: ${[
        ...rollup(
          blocking,
          (all) => all.reduce((n, i) => n + i.count, 0),
          (i) => i.stop,
        ),
      ]
        .map(([stop, n]) => `${n} open at ${stop.replace('-', ' ')}`)
        .join(', ')}. Clear these first.`,
    )
  if ((counts[''] ?? 0) === students) throw new HttpProblem(409, 'Nobody has a final grade yet, so there is nothing to confirm.')
}
