import { routes, MOST_GROUPS, type OutcomeBody } from '#contract'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { orProblem } from '../../kernel/or-problem'
import { HttpProblem } from '../../kernel/problem'
import { sendFile } from '../../kernel/send-file'
import type { WorkerPool } from '../../workers/pool'
import { courseOutcomes } from '../../kernel/outcomes/course-outcomes'
import type { JudgedKept } from '../../workers/judged-kept'
import type { StandardRow } from '../../kernel/standards/queries'
import { outcomeLinks } from '../../kernel/outcomes/links'
import type { OutcomeNews } from '../../kernel/outcomes/news'
import { outcomeQueries } from '../../kernel/outcomes/queries'

/** Outcomes over time: what gives evidence of them, what was noted by hand, who may see it, and groups that are kept. */
export function outcomeRoutes(
  handle: Handle,
  db: Db,
  { plans, pool, news, judged }: { plans: PlanLoader; pool: WorkerPool; news: OutcomeNews; judged: JudgedKept },
): void {
  const outcomesOf = courseOutcomes(db, plans)
  const own = outcomeQueries(db)
  const { newest } = outcomeLinks(db)
  const student = db.prepare<[string, string], object>('SELECT 1 FROM student WHERE id = ? AND course_id = ?')
  const students = db.prepare<[string], string>('SELECT id FROM student WHERE course_id = ?').pluck()

  handle(routes.courseOutcomes, ({ params: { courseId }, me }) => {
    const found = outcomesOf(courseId, me.id)
    // Standings are made of these readings: a worker has them by the time that a page has the course's marks.
    judged.ahead(courseId, new Set(found.links.map((l) => l.assessmentId)))
    return found
  })

  handle(routes.outcomeShares, async ({ params: { courseId }, me }) =>
    orProblem(await pool.sharesOfCourse({ file: db.name, courseId }, { personId: me.id })),
  )
  handle(routes.standingsRoster, async ({ params: { courseId }, me, res }) => {
    const content = orProblem(await pool.standingsRoster({ file: db.name, courseId, at: now() }, { personId: me.id }))
    const { code, term } = plans.load(courseId).plan.head
    return sendFile(res, `${code} ${term} standings`, 'zip', content)
  })

  handle(routes.setOutcome, ({ params: { courseId, outcomeId }, body, me }) => {
    outcome(outcomeId)
    const { judged } = outcomesOf(courseId, me.id)
    if (body.judgements.some((id) => !judged.includes(id)))
      throw new HttpProblem(422, 'Only what is marked by overall judgement on a scale can count so.', { field: 'judgements' })
    own.set(courseId, outcomeId, body, me.id)
    news.tell(courseId)
    return undefined
  })

  handle(routes.typeEvidence, ({ params: { courseId, outcomeId }, body, me }) => {
    const { levels } = JSON.parse(outcome(outcomeId).body) as OutcomeBody
    if (body.level > levels.length) throw new HttpProblem(422, `It has ${levels.length} levels.`, { field: 'level' })
    if (!student.get(body.studentId, courseId))
      throw new HttpProblem(422, 'There is no such student in this course.', { field: 'studentId' })
    const noted = own.type({ ...body, courseId, outcomeId, byId: me.id })
    news.tell(courseId)
    return noted
  })

  handle(routes.takeBackEvidence, ({ params: { courseId, outcomeId, evidenceId } }) => {
    if (!own.takeBack(courseId, outcomeId, evidenceId)) throw new HttpProblem(404, 'There is no such note that still counts.')
    news.tell(courseId)
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
