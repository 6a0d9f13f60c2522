import { sightOf } from '#core/roles'
import { routes, type PlacementWrite, type Release } from '#contract'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { sendFile } from '../../kernel/send-file'
import { HttpProblem } from '../../kernel/problem'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { calendarOf } from '../../kernel/calendar'
import type { Clock } from '../../kernel/clock'
import { dueDays } from '../../kernel/due-days'
import { placementQueries } from './queries'

/** Told of the marks that are let out to students by hand. */
interface Announces {
  letOut: (courseId: string, placed: PlacementWrite[], from: { id: string; name: string }) => Promise<unknown>
}

export function placementRoutes(
  handle: Handle,
  db: Db,
  plans: PlanLoader,
  writes: CourseWrites,
  announcing: Announces,
  clock: Clock,
): void {
  const { placement, set, letOutAt, remove, marks, accept, raise, teaches, person } = placementQueries(db)

  handle(routes.setPlacements, async ({ params: { courseId }, body, me }) => {
    const { plan } = plans.load(courseId)
    const sections = new Map(plan.sections.map((s) => [s.id, s]))
    const assessments = new Map(plan.assessments.map((a) => [a.id, a]))
    // What students may see is said also once results are confirmed.
    const releasesAlone = body.placements.every((p) => p.placed && placement.get(p.assessmentId, p.sectionId)?.due === p.due)
    const write = releasesAlone ? writes.write : writes.writeOpen
    const done = write(courseId, () => {
      const before = body.placements.map(({ assessmentId, sectionId }): PlacementWrite => {
        const row = placement.get(assessmentId, sectionId)
        return {
          assessmentId,
          sectionId,
          placed: !!row,
          due: row?.due ?? null,
          release: row ? (JSON.parse(row.release) as Release) : { kind: 'confirmed' },
        }
      })
      body.placements.forEach((p, i) => {
        const [assessment, section] = [assessments.get(p.assessmentId), sections.get(p.sectionId)]
        if (!assessment || !section)
          throw new HttpProblem(422, `There is no such ${assessment ? 'section' : 'assessment'} in this course.`, {
            field: `placements.${i}`,
          })
        if (p.placed) {
          set.run(p.assessmentId, p.sectionId, p.due, JSON.stringify(p.release))
          if (isOut(p) !== isOut(before[i]!)) letOutAt.run(isOut(p) ? now() : null, p.assessmentId, p.sectionId)
          return
        }
        const { n } = marks.get(p.assessmentId, p.sectionId)!
        if (n > 0)
          throw new HttpProblem(
            409,
            `${assessment.title} has ${n} marks in ${section.name}. Leave its students out instead: that can be tried first, and keeps them.`,
            { field: `placements.${i}` },
          )
        remove.run(p.assessmentId, p.sectionId)
      })
      return { before }
    })
    const letOut = body.placements.filter((p, i) => isOut(p) && !isOut(done.before[i]!))
    if (letOut.length > 0) await announcing.letOut(courseId, letOut, me)
    return done
  })

  handle(routes.acceptFinding, ({ params: { courseId }, body, me }) =>
    writes.write(courseId, () => {
      for (const key of body.keys) accept.run(courseId, key, body.reason, me.id, now())
      return undefined
    }),
  )
  handle(routes.raiseFinding, ({ params: { courseId }, body }) =>
    writes.write(courseId, () => {
      for (const key of body.keys) raise.run(courseId, key)
      return undefined
    }),
  )

  const isOut = ({ placed, release }: PlacementWrite) => placed && release.kind === 'by hand' && release.released

  const daysOf = dueDays(db)
  const own = (courseId: string, personId: string) => new Set(teaches.all(courseId, personId).map((s) => s.id))
  handle(routes.sectionCalendar, ({ params: { courseId, sectionId }, me, role, res }) => {
    const { plan } = plans.load(courseId)
    const section = plan.sections.find((s) => s.id === sectionId)
    if (!section || (sightOf(role).students !== 'all' && !own(courseId, me.id).has(sectionId)))
      throw new HttpProblem(404, 'There is no such section among yours.')
    const content = calendarOf(`${plan.head.code} ${section.name}`, daysOf(plan, new Set([sectionId])), clock.now())
    return sendFile(res, `due ${section.name}`, 'ics', content)
  })
  handle(routes.personCalendar, ({ params: { courseId, personId }, me, role, res }) => {
    const { plan } = plans.load(courseId)
    const who = person.get(personId, courseId)
    if (!who || (sightOf(role).students !== 'all' && personId !== me.id))
      throw new HttpProblem(404, 'There is no such person in this course.')
    const content = calendarOf(`${plan.head.code}, ${who.name}`, daysOf(plan, own(courseId, personId)), clock.now())
    return sendFile(res, 'due days', 'ics', content)
  })
}
