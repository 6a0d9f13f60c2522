import { randomUUID } from 'node:crypto'
import { routes, type PlanAdded } from '#contract'
import { placeEverywhere } from '../../kernel/course/place-everywhere'
import type { Db } from '../../kernel/db/open'
import { isOfSqlite } from '../../kernel/db/of-sqlite'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { wholePlanQueries } from './queries'

/** A plan that comes in as a whole, and goes as a whole as long as nobody has worked with it. */
export function wholePlanRoutes(handle: Handle, db: Db, plans: PlanLoader, writes: CourseWrites): void {
  const { titles, taken, insertComponent, insertAssessment, setDue, dropPlacements, dropAssessment, dropComponent } = wholePlanQueries(db)
  const place = placeEverywhere(db)

  handle(routes.addPlan, ({ params: { courseId }, body }) => {
    const counts = Number(!plans.load(courseId).plan.hasMarks)
    return writes.writeOpen(courseId, (): PlanAdded => {
      const parts = new Map(titles.all(courseId).map((c) => [c.title.toLowerCase(), c.id]))
      const componentIds = body.components.map(({ title, weight }, i) => {
        if (parts.has(title.toLowerCase()))
          throw new HttpProblem(422, `${title} is a component of the plan already: nothing was added.`, { field: `components.${i}` })
        const id = randomUUID()
        insertComponent.run({ id, courseId, title, weight })
        parts.set(title.toLowerCase(), id)
        return id
      })
      const assessmentIds = body.assessments.map(({ title, component, outOf, worth, due }, i) => {
        const componentId = parts.get(component.toLowerCase())
        if (componentId === undefined)
          throw new HttpProblem(422, `There is no component ${component}: nothing was added.`, { field: `assessments.${i}` })
        if (taken.get(courseId, title))
          throw new HttpProblem(422, `${title} stands in the plan already: nothing was added.`, { field: `assessments.${i}` })
        const id = randomUUID()
        insertAssessment.run({ id, courseId, componentId, title, outOf, worth: worth ?? outOf, follows: Number(worth === null), counts })
        place(id, courseId)
        for (const [sectionId, day] of due)
          if (setDue.run(day, id, sectionId, courseId).changes === 0)
            throw new HttpProblem(422, 'A section of it is not the course’s: nothing was added.', { field: `assessments.${i}` })
        return id
      })
      return { componentIds, assessmentIds }
    })
  })

  handle(routes.takePlanBack, ({ params: { courseId }, body: { componentIds, assessmentIds } }) => {
    try {
      writes.writeOpen(courseId, () => {
        for (const id of assessmentIds) {
          dropPlacements.run(id)
          dropAssessment.run(id, courseId)
        }
        for (const id of componentIds) dropComponent.run(id, courseId)
      })
    } catch (e) {
      // Whatever was done with it refers to it.
      if (isOfSqlite(e) && e.code.startsWith('SQLITE_CONSTRAINT'))
        throw new HttpProblem(
          409,
          'Some of what was added has been worked with since: nothing was taken back. Take assessments away one by one.',
        )
      throw e
    }
    return undefined
  })
}
