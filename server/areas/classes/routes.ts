import { randomInt } from 'node:crypto'
import { drawCodeNames, isReleased, nameWords, placementFor, whyNotCodeName } from '#core/roll'
import { sightOf } from '#core/roles'
import { standingOfStudent } from '#core/trial'
import { routes, type ClassCell, type ClassView, type Role } from '#contract'
import type { Clock } from '../../kernel/clock'
import type { IssuedResults } from '../../kernel/course/issued-results'
import { seenMarks } from '../../kernel/course/seen-marks'
import { placedOf } from '../../kernel/course/placed-of'
import type { PlanLoader } from '../../kernel/course/load-plan'
import type { WorkedOutMarks } from '../../kernel/course/worked-out'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import { classQueries } from './queries'
import { skeletonOf } from './skeleton'
import { writing } from '../../kernel/db/transactions'

const MANY = 2 ** 32

/** What a class may look at together: its work by numbers or code names. No name is in any answer. */
export function classRoutes(handle: Handle, db: Db, plans: PlanLoader, worked: WorkedOutMarks, issued: IssuedResults, clock: Clock): void {
  const seenIn = seenMarks(db, issued)
  const { teacher, members, came, taken, takenByOthers, set, drop, known } = classQueries(db)

  /** @throws HttpProblem 404 where there is no such section, or it is not theirs */
  function requireSection(courseId: string, sectionId: string, me: string, role: Role): void {
    const teaches = teacher.get(sectionId, courseId)
    if (teaches === undefined || (sightOf(role).students !== 'all' && teaches !== me))
      throw new HttpProblem(404, 'There is no such section among yours.')
  }

  async function viewOf(courseId: string, sectionId: string): Promise<ClassView> {
    const { plan } = plans.load(courseId)
    const { table, workings, standing, applies } = await worked(courseId)
    const today = clock.today()
    const { issue, of: seenOf } = seenIn(courseId)
    const confirmed = issue !== null
    const section = plan.sections.find((s) => s.id === sectionId)!
    const own = plan.assessments
      .map((a) => ({ a, placed: placedOf(plan, a.id) }))
      .filter(({ placed }) => placed.some((p) => p.sectionId === sectionId))
    const arrived = new Set(came.all(sectionId))
    const rows: ClassView['rows'] = []
    for (const { id, number, codeName } of members.all(sectionId)) {
      const live = new Map(standingOfStudent(workings, standing, id).map((m) => [m.assessmentId, m]))
      const seen = await seenOf(
        id,
        live,
        own.map(({ a }) => a),
      )
      const cells = own.map(({ a, placed }): ClassCell => {
        if (!applies(id, a.id)) return 'not set'
        const placement = placementFor(placed, table.stays[id] ?? [], sectionId)
        const mark = seen.get(a.id)
        const isOut = !!placement && isReleased(placement.release, { today, due: placement.due, confirmed })
        if (isOut && mark && mark.status !== 'in' && mark.status !== 'late') return mark.status === 'held' ? 'looked into' : mark.status
        if (isOut && mark && mark.mark !== null) return mark.mark
        return (live.get(a.id)?.plain ?? null) !== null || arrived.has(`${a.id} ${id}`) ? 'came in' : 'nothing yet'
      })
      rows.push({ number, codeName, cells })
    }
    return {
      course: `${plan.head.code} ${plan.head.title}`,
      section: section.name,
      assessments: own.map(({ a, placed }) => ({
        id: a.id,
        title: a.title,
        outOf: a.outOf,
        due: placed.find((p) => p.sectionId === sectionId)!.due,
      })),
      rows,
    }
  }

  handle(routes.classView, ({ params: { courseId, sectionId }, me, role }) => {
    requireSection(courseId, sectionId, me.id, role)
    return viewOf(courseId, sectionId)
  })

  handle(routes.drawCodeNames, ({ params: { courseId, sectionId }, body: { anew }, me, role }) => {
    requireSection(courseId, sectionId, me.id, role)
    writing(db, () => {
      const those = members.all(sectionId)
      if (anew) for (const { id } of those) drop.run(id)
      const without = those.filter((m) => anew || m.codeName === null)
      // A thing that somebody in the course is called as well would seem to mean them.
      const called = known.all(courseId).flatMap((s) => nameWords(s.name))
      const drawn = drawCodeNames(without.length, new Set([...taken.all(courseId), ...called]), () => randomInt(MANY) / MANY)
      without.forEach(({ id }, i) => set.run(id, courseId, drawn[i]!))
    })
    return viewOf(courseId, sectionId)
  })

  handle(routes.chooseCodeName, ({ params: { courseId }, body: { name }, me }) => {
    const all = known.all(courseId)
    const student = all.find((s) => s.personId === me.id)
    if (!student) throw new HttpProblem(404, 'You are not on the roll of this course.')
    const others = all.filter((s) => s !== student)
    const why = whyNotCodeName(name, student, others, takenByOthers.all(courseId, student.id), skeletonOf)
    if (why !== null) throw new HttpProblem(422, why, { field: 'name' })
    set.run(student.id, courseId, name)
    return undefined
  })
}
