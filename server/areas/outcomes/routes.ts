import { routes, MOST_GROUPS, type CourseOutcome, type CourseOutcomes, type OutcomeBody } from '#contract'
import type { PlanLoader } from '../../kernel/course/load-plan'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import { standardsOf } from '../../kernel/standards/judge'
import { libraryQueries, type StandardRow } from '../../kernel/standards/queries'
import { outcomeLinks } from '../../kernel/outcomes/links'
import { outcomeQueries } from '../../kernel/outcomes/queries'

/** Outcomes over time: what gives evidence of them, what was noted by hand, who may see it, and groups that are kept. */
export function outcomeRoutes(handle: Handle, db: Db, plans: PlanLoader): void {
  const library = libraryQueries(db)
  const standardOf = standardsOf(library)
  const own = outcomeQueries(db)
  const { newest, linksOf } = outcomeLinks(db)
  const student = db.prepare<[string, string], object>('SELECT 1 FROM student WHERE id = ? AND course_id = ?')
  const students = db.prepare<[string], string>('SELECT id FROM student WHERE course_id = ?').pluck()

  function outcomesOf(courseId: string, personId: string): CourseOutcomes {
    const { plan } = plans.load(courseId)
    const links = linksOf(plan)
    const notes = own.typed(courseId)
    // Each is looked up once, however many notes there are on it.
    const isNow = new Map([...new Set(notes.map((t) => t.outcomeId))].map((id) => [id, newest(id)?.id]))
    const typed = notes.flatMap((t) => {
      const outcomeId = isNow.get(t.outcomeId)
      return outcomeId === undefined ? [] : [{ ...t, outcomeId }]
    })
    const shown = new Set([...own.shown(courseId)].map((id) => newest(id)?.id))
    const judgements = own.judgements(courseId)
    const ids = new Set([...links.map((l) => l.outcomeId), ...typed.map((t) => t.outcomeId)])
    const outcomes = [...ids].map((id): CourseOutcome => {
      const row = library.get(id)!
      return {
        id,
        title: row.title,
        ...(JSON.parse(row.body) as OutcomeBody),
        mine: row.ownerId === personId,
        owner: row.owner,
        revision: row.revision,
        shown: shown.has(id),
        judgements: judgements.flatMap((j) => (newest(j.outcomeId)?.id === id ? j.assessmentId : [])),
      }
    })
    return {
      outcomes,
      links,
      judged: plan.assessments.flatMap((a) => (standardOf(a.standardId)?.kind === 'scale' ? a.id : [])),
      typed,
    }
  }

  handle(routes.courseOutcomes, ({ params, me }) => outcomesOf(params.courseId, me.id))

  handle(routes.setOutcome, ({ params: { courseId, outcomeId }, body, me }) => {
    outcome(outcomeId)
    const { judged } = outcomesOf(courseId, me.id)
    if (body.judgements.some((id) => !judged.includes(id)))
      throw new HttpProblem(422, 'Only what is marked by overall judgement on a scale can count so.', { field: 'judgements' })
    own.set(courseId, outcomeId, body, me.id)
    return undefined
  })

  handle(routes.typeEvidence, ({ params: { courseId, outcomeId }, body, me }) => {
    const { levels } = JSON.parse(outcome(outcomeId).body) as OutcomeBody
    if (body.level > levels.length) throw new HttpProblem(422, `It has ${levels.length} levels.`, { field: 'level' })
    if (!student.get(body.studentId, courseId))
      throw new HttpProblem(422, 'There is no such student in this course.', { field: 'studentId' })
    return own.type({ ...body, courseId, outcomeId, byId: me.id })
  })

  handle(routes.takeBackEvidence, ({ params: { courseId, outcomeId, evidenceId } }) => {
    if (!own.takeBack(courseId, outcomeId, evidenceId)) throw new HttpProblem(404, 'There is no such note that still counts.')
    return undefined
  })

  handle(routes.groups, ({ params }) => own.groups(params.courseId))

  handle(routes.keepGroup, ({ params: { courseId }, body: { name, studentIds }, me }) => {
    const all = own.groups(courseId)
    if (all.length >= MOST_GROUPS)
      throw new HttpProblem(409, `${MOST_GROUPS} groups are kept already: drop one, and there is room for this.`)
    if (all.some((g) => g.name === name)) throw new HttpProblem(409, `There is a group called ${name} already.`, { field: 'name' })
    const known = new Set(students.all(courseId))
    if (studentIds.some((id) => !known.has(id)))
      throw new HttpProblem(422, 'One of them is not on the roll (any more).', { field: 'studentIds' })
    const id = own.keepGroup(courseId, name, studentIds, me.id)
    return own.groups(courseId).find((g) => g.id === id)!
  })

  handle(routes.dropGroup, ({ params: { courseId, groupId } }) => {
    if (!own.dropGroup(courseId, groupId)) throw new HttpProblem(404, 'There is no such group (any more).')
    return undefined
  })

  /** @throws HttpProblem 404 where there is no such outcome */
  function outcome(id: string): StandardRow {
    const row = newest(id)
    if (!row) throw new HttpProblem(404, 'There is no such outcome.')
    return row
  }
}
