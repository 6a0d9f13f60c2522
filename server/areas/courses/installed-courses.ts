import { rm } from 'node:fs/promises'
import { basename, dirname, join } from 'node:path'
import { shiftDay, shownDay } from '#core/roll'
import { routes, type InstalledCourse } from '#contract'
import type { AuditList } from '../../kernel/access/audit'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { orProblem } from '../../kernel/or-problem'
import { HttpProblem } from '../../kernel/problem'
import type { InstallationSettings } from '../../kernel/access/installation-settings'
import type { Clock } from '../../kernel/clock'
import type { WorkerPool } from '../../workers/pool'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { FileGate } from '../../kernel/db/file-gate'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { installedQueries } from './queries'

/** Folders beside the database that hold a folder of each course: letters as they went out, and what the records office answered. */
const outside = ['post', 'records-office']

/** Courses as such: for whoever administers them, without their marks; and what a lead corrects of their own. */
export function installedCourseRoutes(
  handle: Handle,
  db: Db,
  plans: PlanLoader,
  writes: CourseWrites,
  {
    audit,
    pool,
    settings,
    clock,
    gate,
  }: { audit: AuditList; pool: WorkerPool; settings: InstallationSettings; clock: Clock; gate: FileGate },
): void {
  const { all, person, lead, isStudent, setAway, remove, dropRoles, same, edit } = installedQueries(db)

  const list = (): InstalledCourse[] =>
    all.all().map(({ id, leads, bare }) => {
      const { head } = plans.load(id).plan
      const namelessFrom = head.awayAt === null ? null : shiftDay(clock.dayOf(head.awayAt), settings.namelessAfter())
      return { ...head, namelessFrom, leads: leads?.split('|') ?? [], bare: bare === 1 }
    })
  const one = (id: string): InstalledCourse => {
    const found = list().find((c) => c.id === id)
    if (!found) throw new HttpProblem(404, 'There is no such course here.')
    return found
  }

  handle(routes.installedCourses, list)

  handle(routes.giveLead, ({ params: { courseId }, body: { personId }, me }) => {
    one(courseId)
    const found = person.get(personId)
    if (!found || found.mayLead === 0)
      throw new HttpProblem(422, 'There is no such person here, or they are blocked or a student.', { field: 'personId' })
    if (isStudent.get(courseId, personId)!.n > 0) throw new HttpProblem(409, `${found.name} is a student of that course.`)
    writes.write(courseId, () => {
      lead.run(courseId, personId)
      audit.note({ kind: 'role changed', by: me.id, about: personId, courseId, words: 'lead, given by the installation' })
    })
    return undefined
  })

  handle(routes.putAway, ({ params: { courseId }, body: { away }, me }) => {
    if ((one(courseId).awayAt !== null) === away) return undefined
    writes.write(courseId, () => {
      setAway.run(away ? now() : null, courseId)
      audit.note({ kind: 'course changed', by: me.id, courseId, words: away ? 'put away' : 'brought back' })
    })
    return undefined
  })

  handle(routes.countNames, async ({ params: { courseId }, me }) => {
    one(courseId)
    const counts = orProblem(await pool.countNames({ file: db.name, courseId }, { personId: me.id }))
    return counts
  })

  handle(routes.makeNameless, async ({ params: { courseId }, body: { reasons }, me }) => {
    const { code, namelessAt, namelessFrom } = one(courseId)
    if (namelessAt !== null) throw new HttpProblem(409, `${code} is nameless already.`)
    if (namelessFrom === null) throw new HttpProblem(409, `Put ${code} away first: names are erased of a course that is over.`)
    if (namelessFrom > clock.today())
      throw new HttpProblem(
        409,
        `${code} can be made nameless from ${shownDay(namelessFrom)} on: ${settings.namelessAfter()} days after it was put away.`,
      )
    const erased = await pool.makeNameless({ file: db.name, courseId, at: now(), reasons }, { personId: me.id })
    if (typeof erased === 'string')
      throw new HttpProblem(503, `${erased} What is erased already stays so; the rest is erased when it is asked for again.`)
    await gate.whileShut(() => pool.writeAnew(db.name))
    // Files beside the database hold names too.
    for (const folder of outside) await rm(join(dirname(db.name), folder, basename(courseId)), { recursive: true, force: true })
    writes.write(courseId, () =>
      audit.note({
        kind: 'course changed',
        by: me.id,
        courseId,
        words: `made nameless: ${erased.students} students, ${erased.works + erased.deliveries} works, ${erased.remarks} remarks, ${erased.letters} letters, ${reasons.length} reasons erased`,
      }),
    )
    return erased
  })

  handle(routes.removeCourse, ({ params: { courseId }, me }) => {
    const course = one(courseId)
    if (!course.bare) throw new HttpProblem(409, `${course.code} holds scripts or decisions: it can be put away, and not removed.`)
    writes.write(courseId, () => {
      audit.note({ kind: 'course changed', by: me.id, courseId, words: `removed: ${course.title}` })
      dropRoles.run(courseId)
      remove.run(now(), courseId)
    })
    return undefined
  })

  handle(routes.editCourse, ({ params: { courseId }, body, role, me }) => {
    if (same.get(body.code, body.term, courseId))
      throw new HttpProblem(422, `${body.code} in ${body.term} is there already: give another code or term.`, { field: 'term' })
    writes.write(courseId, () => {
      edit.run(body.code, body.title, body.term, body.firstDay, body.lastDay, courseId)
      audit.note({
        kind: 'course changed',
        by: me.id,
        courseId,
        words: `${body.code} ${body.title}, ${body.term}, ${body.firstDay} to ${body.lastDay}`,
      })
    })
    return plans.head(courseId, role)
  })
}
