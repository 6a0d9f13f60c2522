import { randomUUID } from 'node:crypto'
import { checkNewBoundaries, conditionsRenamed } from '#core/grades'
import { routes, type Assessment, type Component } from '#contract'
import { placeEverywhere } from '../../kernel/course/place-everywhere'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { madeOver } from '../../kernel/version'
import { HttpProblem } from '../../kernel/problem'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { toAssessment, toComponent, type AssessmentRow } from '../../kernel/course/rows'
import { movesGrades, setColumns } from './set-columns'
import { freeTitles } from '../../kernel/course/titles'
import { planQueries } from './queries'

export function planRoutes(handle: Handle, db: Db, plans: PlanLoader, writes: CourseWrites): void {
  const free = freeTitles(db)
  const { component, assessment, marked, inside, insertComponent, removeComponent, insert, setPosition, setGrades, setPolicy } =
    planQueries(db)
  const place = placeEverywhere(db)

  const hasMarks = (courseId: string) => plans.load(courseId).plan.hasMarks
  function guard(courseId: string, patch: Record<string, unknown>): void {
    const moving = movesGrades(patch)
    if (moving && hasMarks(courseId))
      throw new HttpProblem(409, 'There are marks already: a change of the plan is tried first and then adopted.', { field: moving })
  }

  handle(routes.addComponent, ({ params: { courseId }, body }) =>
    writes.writeOpen(courseId, (): Component => {
      const id = randomUUID()
      insertComponent.run({ ...body, id, courseId, title: free.component(courseId, body.title), bonus: Number(body.bonus) })
      return toComponent(component.get(id, courseId)!)
    }),
  )

  handle(routes.editComponent, ({ params: { courseId, componentId }, body: { version, ...patch } }) => {
    guard(courseId, patch)
    return writes.writeOpen(courseId, (): Component => {
      const row = component.get(componentId, courseId)
      if (!row) throw new HttpProblem(404, 'There is no such component.')
      madeOver(version, toComponent(row), 'Somebody changed this component meanwhile.')
      if (patch.title !== undefined) patch.title = free.component(courseId, patch.title, row.id)
      setColumns(db, 'component', row.id, patch)
      return toComponent(component.get(row.id, courseId)!)
    })
  })

  handle(routes.removeComponent, ({ params: { courseId, componentId } }) =>
    writes.writeOpen(courseId, () => {
      const row = component.get(componentId, courseId)
      if (!row) throw new HttpProblem(404, 'There is no such component.')
      const { n, away } = inside.get(row.id)!
      if (n > 0)
        throw new HttpProblem(
          409,
          away === n
            ? `${row.title} holds assessments that were taken away; bring them back and move them before it goes.`
            : `${row.title} holds ${n - away} assessments: move them to another component first.`,
        )
      removeComponent.run(row.id)
      return undefined
    }),
  )

  handle(routes.addAssessment, ({ params: { courseId }, body }) => {
    const counts = Number(!hasMarks(courseId))
    return writes.writeOpen(courseId, (): Assessment => {
      if (!component.get(body.componentId, courseId)) throw new HttpProblem(422, 'There is no such component.', { field: 'componentId' })
      const id = randomUUID()
      const { componentId, marking, outOf } = body
      const follows = Number(body.worth === null)
      const title = free.assessment(courseId, body.title)
      insert.run({ id, courseId, componentId, title, marking, outOf, worth: body.worth ?? outOf, follows, counts })
      if (body.placed) place(id, courseId)
      return toAssessment(assessment.get(id, courseId)!)
    })
  })

  handle(routes.editAssessment, ({ params: { courseId, assessmentId }, body: { version, ...patch } }) => {
    guard(courseId, patch)
    return writes.writeOpen(courseId, (): Assessment => {
      const row = assessment.get(assessmentId, courseId)
      if (!row) throw new HttpProblem(404, 'There is no such assessment.')
      madeOver(version, toAssessment(row), 'Somebody changed this assessment meanwhile.')
      checkMarked(courseId, row, patch)
      const outOf = patch.outOf ?? row.out_of
      if (patch.passMark !== undefined && patch.passMark !== null && patch.passMark > outOf)
        throw new HttpProblem(422, `The pass mark ${patch.passMark} is over the maximum of ${outOf}.`, { field: 'passMark' })
      if (patch.componentId !== undefined && !component.get(patch.componentId, courseId))
        throw new HttpProblem(422, 'There is no such component.', { field: 'componentId' })
      const set: Record<string, unknown> = { ...patch }
      if (patch.title !== undefined) set.title = free.assessment(courseId, patch.title, row.id)
      // Marked otherwise, it is marked by nothing of the library until something is chosen.
      if (patch.marking !== undefined && patch.marking !== row.marking) set.standardId = null
      // The worth goes with the maximum until somebody types one; with marks about, a worth moves only by decision.
      const follows = patch.worth !== undefined ? false : (patch.worthFollows ?? !!row.worth_follows)
      if (patch.worth !== undefined) set.worthFollows = false
      if (follows && !hasMarks(courseId)) set.worth = outOf
      if (patch.away === false && hasMarks(courseId)) set.counts = false
      setColumns(db, 'assessment', row.id, set)
      return toAssessment(assessment.get(row.id, courseId)!)
    })
  })

  /** Refuses what would change the meaning of marks that an assessment has. */
  function checkMarked(courseId: string, row: AssessmentRow, patch: Record<string, unknown>): void {
    const changes = (field: string, now: unknown) => patch[field] !== undefined && patch[field] !== now
    const touching = changes('outOf', row.out_of) || changes('marking', row.marking) || changes('readingsWanted', row.readings_wanted)
    if (touching && marked.get(row.id)!.n > 0) {
      if (changes('outOf', row.out_of))
        throw new HttpProblem(
          409,
          `${row.title} has marks out of ${row.out_of}. What they were really out of is said at Rescale with “another maximum”, as a trial.`,
          { field: 'outOf' },
        )
      throw new HttpProblem(409, `${row.title} has marks: how it is marked and how often it is read stay as they are.`, {
        field: changes('marking', row.marking) ? 'marking' : 'readingsWanted',
      })
    }
    const counting = plans.load(courseId).plan.assessments.find((a) => a.id === row.id)?.counts
    if (patch.away === true && counting && hasMarks(courseId))
      throw new HttpProblem(409, 'There are marks already: taking an assessment away is tried first and then adopted.', { field: 'away' })
  }

  handle(routes.orderAssessments, ({ params: { courseId }, body }) =>
    writes.writeOpen(courseId, () => {
      body.ids.forEach((id, i) => setPosition.run(i, id, courseId))
      return undefined
    }),
  )

  handle(routes.setGrades, ({ params: { courseId }, body: { boundaries } }) => {
    if (hasMarks(courseId))
      throw new HttpProblem(409, 'There are marks already: a change of grades is tried first and then adopted.', { field: 'boundaries' })
    const { plan } = plans.load(courseId)
    const [finding] = checkNewBoundaries(boundaries, plan)
    if (finding)
      throw new HttpProblem(finding.kind === 'condition' ? 409 : 422, finding.message, {
        field: finding.row === null ? 'boundaries' : `boundaries.${finding.row}`,
      })
    const conditions = conditionsRenamed(plan.conditions, plan.boundaries, boundaries)
    writes.writeOpen(courseId, () => setGrades.run(JSON.stringify(boundaries), JSON.stringify(conditions), courseId))
    return { boundaries }
  })

  handle(routes.setPolicy, ({ params: { courseId }, body }) => {
    if (hasMarks(courseId))
      throw new HttpProblem(409, 'There are marks already: a change of policy is tried first and then adopted.', { field: 'policy' })
    return writes.writeOpen(courseId, () => {
      setPolicy.run(JSON.stringify(body.policy), courseId)
      return body
    })
  })
}
