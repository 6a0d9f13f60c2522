import { randomUUID } from 'node:crypto'
import { checkBoundaries, renamedGrades } from '#core/grades'
import { compareResults } from '#core/rescale'
import { decisionKind, applyChanges, gradeWorkings, workingsOf, type Workings } from '#core/trial'
import { routes, type Change, type DecidedMeanwhile, type Decision, type Effect, type KeptTrial } from '#contract'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { inTurns } from '../../kernel/in-turns'
import { madeOver } from '../../kernel/version'
import { HttpProblem } from '../../kernel/problem'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { PlanLoader } from '../../kernel/course/load-plan'
import type { TableLoader } from '../../kernel/course/load-table'
import { markSoFar, standardsOf } from '../../kernel/standards/judge'
import { libraryQueries } from '../../kernel/standards/queries'
import { carrier } from '../../kernel/standards/carry'
import { recounter } from '../../kernel/standards/recount'
import { checkChanges } from './check-changes'
import { decisions } from '../../kernel/course/decisions'
import { decidedMeanwhile } from './meanwhile'
import { summarise } from './summarise'
import { trialQueries } from './queries'

export function trialRoutes(handle: Handle, db: Db, plans: PlanLoader, tables: TableLoader, writes: CourseWrites): void {
  const record = decisions(db)
  const { trialOf, keep, assessment, versionOf, renameLists, below0 } = trialQueries(db)
  const carriedOver = carrier(db)
  const standardOf = standardsOf(libraryQueries(db))
  const recount = recounter(db)

  const kept = (courseId: string, personId: string): KeptTrial => {
    const row = trialOf.get(courseId, personId)
    return row
      ? { changes: JSON.parse(row.changes) as Change[], since: JSON.parse(row.since) as number[], version: row.version }
      : { changes: [], since: [], version: 0 }
  }
  /** @throws HttpProblem 409 with the trial as it is, where it is another than the one that is known */
  const requireKnown = (courseId: string, personId: string, version: number) => {
    const current = kept(courseId, personId)
    madeOver(version, current, 'You changed the trial in another window.')
  }

  /** @throws HttpProblem 409 with what was decided about the same since it was tried */
  const requireSeen = (
    courseId: string,
    { changes, since = [] }: { changes: Change[]; since?: (number | null)[] | undefined },
    called: Parameters<typeof decidedMeanwhile>[3],
  ) => {
    const first = since.reduce<number>((least, on) => Math.min(least, on ?? Infinity), Infinity)
    if (first === Infinity) return
    const decided = decidedMeanwhile(changes, since, record.since(courseId, first), called)
    if (decided.length === 0) return
    const [were, them] = decided.length === 1 ? ['was', 'it'] : ['were', 'them']
    throw new HttpProblem(409, `${decided.length} of these ${were} decided meanwhile. Replace ${them}, or leave ${them} as decided.`, {
      current: { courseVersion: versionOf.get(courseId)!, decided } satisfies DecidedMeanwhile,
    })
  }

  handle(routes.trial, ({ params, me }) => kept(params.courseId, me.id))

  // A trial touches nothing but itself, so it does not raise the course's version.
  handle(routes.keepTrial, ({ params, body, me }) => {
    const changes = JSON.stringify(body.changes)
    const current = kept(params.courseId, me.id)
    // Sent again because the answer was lost: it is there already.
    if (current.version === body.version + 1 && JSON.stringify(current.changes) === changes) return current
    requireKnown(params.courseId, me.id, body.version)
    const { version } = keep.get(params.courseId, me.id, changes, JSON.stringify(body.since ?? []), now())!
    return { changes: body.changes, since: body.since ?? [], version }
  })

  handle(routes.adopt, ({ params: { courseId }, body, me, role }) => {
    const table = { ...tables.load(courseId), head: { ...tables.load(courseId).head, role } }
    return decide(courseId, body.changes, (): Decision => {
      if (body.trialVersion !== undefined) requireKnown(courseId, me.id, body.trialVersion)
      const before = workingsOf(table)
      requireSeen(courseId, body, {
        words: (c) => summarise([c], table, before),
        studentOf(c) {
          const cell = 'scriptId' in c ? before.cells.ofScript(c.scriptId) : -1
          return cell < 0 ? null : before.cells.studentId(cell)
        },
      })
      checkChanges(table, before, body.changes, {
        carriedOver(assessmentId, standardId) {
          const row = assessment.get(assessmentId, courseId)
          if (!row) return []
          const found = carriedOver(row, standardId, before)
          // Whether those at a level that is gone go along is the lead's to say.
          return [...found.changes, ...(found.nearest?.changes ?? [])]
        },
        rereadNow(assessmentId, method) {
          const row = assessment.get(assessmentId, courseId)
          return !!row && recount.stillGives(row, method)
        },
        markOfPicks(assessmentId, picks) {
          const { standardId, outOf, use } = table.assessments.find((a) => a.id === assessmentId)!
          const standard = standardOf(standardId)
          return standard && markSoFar({ picks, judgement: null, mark: null }, standard, { outOf, use })
        },
      })
      const id = record.add({
        id: randomUUID(),
        courseId,
        kind: decisionKind(body.changes),
        summary: summarise(body.changes, table, before),
        changes: body.changes,
        effect: effectOf(before, applyChanges(before, body.changes)),
        reason: body.reason,
        by: me.id,
      })
      if (body.trialVersion !== undefined) keep.get(courseId, me.id, '[]', '[]', now())
      return record.get(id)!
    })
  })

  handle(routes.recount, async ({ params: { courseId, assessmentId }, body }) => {
    const row = assessment.get(assessmentId, courseId)
    if (!row || row.away) throw new HttpProblem(404, 'There is no such assessment.')
    return inTurns(recount.inPieces(row, body))
  })

  handle(routes.record, ({ params }) => record.all(params.courseId))

  handle(routes.withoutDecision, ({ params: { courseId, decisionId }, role }) => {
    const decision = record.get(decisionId, courseId)
    if (!decision) throw new HttpProblem(404, 'There is no such decision.')
    if (changesScripts(decision.changes)) return null
    const plan = tables.planWithout(courseId, decisionId)
    return { ...plan, head: { ...plan.head, role } }
  })

  handle(routes.withdraw, ({ params, body, me }) => {
    const decision = record.get(params.decisionId, params.courseId)
    if (!decision) throw new HttpProblem(404, 'There is no such decision.')
    return decide(params.courseId, decision.changes, () => {
      if (decision.withdrawn) throw new HttpProblem(409, `${decision.withdrawn.by} withdrew it already.`)
      if (decision.kind === 'confirm' || decision.kind === 'reopen')
        throw new HttpProblem(409, 'A confirmation is not withdrawn: reopen the course at Confirm.')
      if (decision.changes.length === 0) throw new HttpProblem(409, 'This is taken back where it was done: share out anew at Mark.')
      const { policy, boundaries } = plans.without(params.courseId, decision.id).plan
      const [finding] = checkBoundaries(boundaries, policy.above100)
      if (finding)
        throw new HttpProblem(
          409,
          `Without it the boundaries would not be in order: ${finding.message} Move the line that was drawn since first.`,
        )
      record.withdraw(params.courseId, decision.id, me.id, body.reason)
      return record.get(decision.id)!
    })
  })

  /** Most decisions leave scripts and readings as they are, which then need not be read or sent again. */
  const decide = <T>(courseId: string, changes: readonly Change[], work: () => T): T => {
    const done = () => {
      const was = plans.load(courseId).plan.boundaries
      const result = work()
      const bounds = changes.some((c) => c.kind === 'bound')
      const bonus = changes.some((c) => c.kind === 'assess' && c.patch.bonus !== undefined)
      if (!bounds && !bonus) return result
      const { boundaries, assessments } = plans.now(courseId).plan
      // A list that is being judged goes along with the grade that it names.
      for (const [from, to] of renamedGrades(was, boundaries)) renameLists.run(to, courseId, from)
      for (const a of assessments) {
        const n = a.bonus ? 0 : below0.get(a.id)!
        if (n > 0)
          throw new HttpProblem(
            409,
            `${a.title} has ${n} ${n === 1 ? 'mark' : 'marks'} below 0, which only a bonus may have: change ${n === 1 ? 'it' : 'them'} first.`,
          )
      }
      return result
    }
    return changesScripts(changes) ? writes.writeOpen(courseId, done) : writes.writeBesideOpen(courseId, done)
  }
}

/** Whether scripts or readings are others by it, so that they have to be read anew. */
const changesScripts = (changes: readonly Change[]): boolean => changes.some((c) => c.kind === 'carry' || c.kind === 'take away')

function effectOf(before: Workings, after: Workings): Effect {
  const { percents, movers, up, down, gained, lost, renamed, reversed } = compareResults(gradeWorkings(before), gradeWorkings(after))
  return { percents, grades: movers.length, up, down, gained, lost, renamed, reversed }
}
