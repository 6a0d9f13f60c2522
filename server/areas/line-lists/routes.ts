import { randomInt, randomUUID } from 'node:crypto'
import { seeded } from '#core/share'
import { routes, type LineList } from '#contract'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'

interface Row {
  id: string
  grade: string
  by: string
  at: string
  closedAt: string | null
  students: number
}

/** Judging a line: several people say of students near it whether they could, blind to the percent and to each other. It changes no figure. */
export function lineListRoutes(handle: Handle, db: Db, plans: PlanLoader): void {
  const lists = db.prepare<[string], Row>(
    `SELECT l.id, l.grade, p.name AS "by", l.at, l.closed_at AS closedAt, (SELECT count(*) FROM line_list_student s WHERE s.list_id = l.id) AS students
     FROM line_list l JOIN person p ON p.id = l.by_id WHERE l.course_id = ? ORDER BY l.at DESC, l.rowid DESC`,
  )
  const judges = db.prepare<[string], LineList['judges'][number]>(
    `SELECT p.id, p.name, (SELECT count(*) FROM line_judgement x WHERE x.list_id = j.list_id AND x.person_id = j.person_id) AS judged
     FROM line_list_judge j JOIN person p ON p.id = j.person_id WHERE j.list_id = ? ORDER BY p.name`,
  )
  const judgements = db.prepare<[string], { studentId: string; able: 0 | 1 }>(
    'SELECT student_id AS studentId, able FROM line_judgement WHERE list_id = ? ORDER BY student_id, able',
  )
  const insert = db.prepare('INSERT INTO line_list (id, course_id, grade, by_id, at) VALUES (?, ?, ?, ?, ?)')
  const insertStudent = db.prepare('INSERT INTO line_list_student (list_id, student_id, place) VALUES (?, ?, ?)')
  const insertJudge = db.prepare('INSERT INTO line_list_judge (list_id, person_id) VALUES (?, ?)')
  const close = db.prepare('UPDATE line_list SET closed_at = ? WHERE id = ? AND course_id = ? AND closed_at IS NULL')
  const onRoll = db.prepare<[string, string], object>(
    'SELECT 1 FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL WHERE s.id = ? AND s.course_id = ?',
  )
  const isStaff = db.prepare<[string, string], object>(
    "SELECT 1 FROM course_role WHERE person_id = ? AND course_id = ? AND role <> 'student'",
  )
  const open = db.prepare<[string, string], { id: string; grade: string }>(
    `SELECT l.id, l.grade FROM line_list l JOIN line_list_judge j ON j.list_id = l.id
     WHERE l.course_id = ? AND j.person_id = ? AND l.closed_at IS NULL ORDER BY l.at`,
  )
  const toJudge = db.prepare<[string, string], { studentId: string; candidate: string; able: 0 | 1 | null }>(
    `SELECT s.student_id AS studentId, t.candidate, x.able FROM line_list_student s JOIN student t ON t.id = s.student_id
     LEFT JOIN line_judgement x ON x.list_id = s.list_id AND x.student_id = s.student_id AND x.person_id = ?
     WHERE s.list_id = ? ORDER BY s.place`,
  )
  const works = db.prepare<[string, string], { assessment: string; text: string }>(
    `SELECT a.title AS assessment, s.text FROM script s JOIN assessment a ON a.id = s.assessment_id
     WHERE s.student_id = ? AND a.course_id = ? AND a.away = 0 AND s.text IS NOT NULL ORDER BY a.position`,
  )
  const listed = db.prepare<[string, string], object>('SELECT 1 FROM line_list_student WHERE list_id = ? AND student_id = ?')
  const say = db.prepare(
    `INSERT INTO line_judgement (list_id, student_id, person_id, able, at) VALUES (?, ?, ?, ?, ?)
     ON CONFLICT DO UPDATE SET able = excluded.able, at = excluded.at`,
  )
  const takeBack = db.prepare('DELETE FROM line_judgement WHERE list_id = ? AND student_id = ? AND person_id = ?')

  /** @throws HttpProblem 404 where this person does not judge it, or it is closed, or the student is not on it */
  function requireJudge(courseId: string, listId: string, studentId: string, personId: string): void {
    if (!open.all(courseId, personId).some((l) => l.id === listId) || !listed.get(listId, studentId))
      throw new HttpProblem(404, 'There is no such list open for you, or this student is not on it.')
  }

  handle(routes.lineLists, ({ params: { courseId } }) =>
    lists.all(courseId).map((l) => ({
      ...l,
      judges: judges.all(l.id),
      judgements: l.closedAt === null ? [] : judgements.all(l.id).map((j) => ({ ...j, able: j.able === 1 })),
    })),
  )

  handle(routes.makeLineList, ({ params: { courseId }, body: { grade, studentIds, judgeIds }, me }) => {
    if (!plans.load(courseId).plan.boundaries.some((b) => b.grade === grade))
      throw new HttpProblem(422, `This course has no grade ${grade}.`, { field: 'grade' })
    const students = [...new Set(studentIds)]
    if (students.some((id) => !onRoll.get(id, courseId)))
      throw new HttpProblem(422, 'One of them is not on the roll.', { field: 'studentIds' })
    if (judgeIds.some((id) => !isStaff.get(id, courseId)))
      throw new HttpProblem(422, 'One of those who should judge has no part in this course.', { field: 'judgeIds' })
    const id = randomUUID()
    // Drawn, so that the order of the list says nothing of who stands higher.
    const order = seeded(randomInt(2 ** 31 - 1)).shuffled(students)
    db.transaction(() => {
      insert.run(id, courseId, grade, me.id, now())
      order.forEach((studentId, place) => insertStudent.run(id, studentId, place))
      for (const judge of new Set(judgeIds)) insertJudge.run(id, judge)
    })()
    return { id }
  })

  handle(routes.closeLineList, ({ params: { courseId, listId } }) => {
    if (close.run(now(), listId, courseId).changes === 0) throw new HttpProblem(404, 'There is no such list, or it is closed already.')
    return undefined
  })

  handle(routes.toJudge, ({ params: { courseId }, me }) =>
    open.all(courseId, me.id).map((l) => ({
      ...l,
      students: toJudge.all(me.id, l.id).map((s) => ({ ...s, able: s.able === null ? null : s.able === 1 })),
    })),
  )

  handle(routes.workToJudge, ({ params: { courseId, listId, studentId }, me }) => {
    requireJudge(courseId, listId, studentId, me.id)
    return works.all(studentId, courseId)
  })

  handle(routes.judgeLine, ({ params: { courseId, listId, studentId }, body: { able }, me }) => {
    requireJudge(courseId, listId, studentId, me.id)
    if (able === null) takeBack.run(listId, studentId, me.id)
    else say.run(listId, studentId, me.id, Number(able), now())
    return undefined
  })
}
