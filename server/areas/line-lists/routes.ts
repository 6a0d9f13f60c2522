import { randomInt, randomUUID } from 'node:crypto'
import { writeDelimited } from '#core/exchange/write-delimited'
import { seeded } from '#core/share'
import { routes } from '#contract'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import { sendFile } from '../../kernel/send-file'
import { lineListQueries } from './queries'
import { writing } from '../../kernel/db/transactions'

/** Judging a line: several people say of students near it whether they could, blind to the percent and to each other. It changes no figure. */
export function lineListRoutes(handle: Handle, db: Db, plans: PlanLoader): void {
  const sql = lineListQueries(db)

  /** @returns the student @throws HttpProblem 404 where this person does not judge it, or it is closed, or nobody has that number on it */
  function listed(courseId: string, listId: string, number: number, personId: string): string {
    const studentId = sql.at.get(listId, number)
    if (studentId === undefined || !sql.open.all(courseId, personId).some((l) => l.id === listId))
      throw new HttpProblem(404, 'There is no such list open for you, or nobody has that number on it.')
    return studentId
  }

  handle(routes.lineLists, ({ params: { courseId } }) =>
    sql.lists.all(courseId).map((l) => ({
      ...l,
      judges: sql.judges.all(l.id),
      judgements: l.closedAt === null ? [] : sql.judgements.all(l.id).map((j) => ({ ...j, able: j.able === 1 })),
    })),
  )

  handle(routes.makeLineList, ({ params: { courseId }, body: { grade, studentIds, judgeIds }, me }) => {
    if (!plans.load(courseId).plan.boundaries.some((b) => b.grade === grade))
      throw new HttpProblem(422, `This course has no grade ${grade}.`, { field: 'grade' })
    const students = [...new Set(studentIds)]
    if (students.some((id) => !sql.onRoll.get(id, courseId)))
      throw new HttpProblem(422, 'One of them is not on the roll.', { field: 'studentIds' })
    if (judgeIds.some((id) => !sql.isStaff.get(id, courseId)))
      throw new HttpProblem(422, 'One of those who should judge has no part in this course.', { field: 'judgeIds' })
    const id = randomUUID()
    // Drawn, so that the order of the list says nothing of who stands higher.
    const order = seeded(randomInt(2 ** 31 - 1)).shuffled(students)
    writing(db, () => {
      sql.insert.run(id, courseId, grade, me.id, now())
      order.forEach((studentId, place) => sql.insertStudent.run(id, studentId, place))
      for (const judge of new Set(judgeIds)) sql.insertJudge.run(id, judge)
    })
    return { id }
  })

  handle(routes.closeLineList, ({ params: { courseId, listId } }) => {
    if (sql.close.run(now(), listId, courseId).changes === 0) throw new HttpProblem(404, 'There is no such list, or it is closed already.')
    return undefined
  })

  handle(routes.lineListKey, ({ params: { courseId, listId }, res }) => {
    const rows = sql.numbers.all(listId, courseId).map((s) => [s.number, s.candidate, s.name, s.section])
    if (rows.length === 0) throw new HttpProblem(404, 'There is no such list, or nobody on it is on the roll.')
    return sendFile(res, 'numbers of papers', 'csv', writeDelimited([['number', 'candidate', 'name', 'section'], ...rows]))
  })

  handle(routes.toJudge, ({ params: { courseId }, me }) =>
    sql.open.all(courseId, me.id).map((l) => ({
      ...l,
      students: sql.toJudge.all(me.id, l.id).map((s) => ({ ...s, able: s.able === null ? null : s.able === 1 })),
    })),
  )

  handle(routes.workToJudge, ({ params: { courseId, listId, number }, me }) =>
    sql.works.all({ studentId: listed(courseId, listId, number, me.id), courseId, personId: me.id }),
  )

  handle(routes.judgeLine, ({ params: { courseId, listId, number }, body: { able }, me }) => {
    const studentId = listed(courseId, listId, number, me.id)
    if (able === null) sql.takeBack.run(listId, studentId, me.id)
    else sql.say.run(listId, studentId, me.id, Number(able), now())
    return undefined
  })
}
