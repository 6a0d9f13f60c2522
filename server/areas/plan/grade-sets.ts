import { randomUUID } from 'node:crypto'
import type { Boundary } from '#core/grades'
import { routes, type GradeSet } from '#contract'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { gradeSetQueries } from './queries'

const MOST = 100

/** Sets of grades that leads keep for their department. */
export function gradeSetRoutes(handle: Handle, db: Db, plans: PlanLoader): void {
  const { all, insert, replace, drop } = gradeSetQueries(db)
  const list = (me: string): GradeSet[] =>
    all.all().map(({ byId, grades, ...s }) => ({ ...s, grades: JSON.parse(grades) as Boundary[], own: byId === me }))

  handle(routes.gradeSets, ({ me }) => list(me.id))

  handle(routes.keepGradeSet, ({ params: { courseId }, body: { name }, me }) => {
    const grades = JSON.stringify(plans.load(courseId).plan.boundaries)
    const sets = list(me.id)
    const same = sets.find((s) => s.name.toLowerCase() === name.toLowerCase())
    if (same && !same.own) throw new HttpProblem(409, `${same.by} keeps a set of that name: give this one another.`, { field: 'name' })
    if (!same && sets.length >= MOST) throw new HttpProblem(409, `The department keeps ${MOST} sets already: drop one first.`)
    if (same) replace.run(grades, now(), same.id)
    else insert.run(randomUUID(), name, grades, me.id, now())
    return list(me.id)
  })

  handle(routes.dropGradeSet, ({ params: { setId }, me }) => {
    const set = list(me.id).find((s) => s.id === setId)
    if (!set) throw new HttpProblem(404, 'There is no such set any more.')
    if (!set.own) throw new HttpProblem(403, `${set.by} keeps that set, and can drop it.`)
    drop.run(setId)
    return list(me.id)
  })
}
