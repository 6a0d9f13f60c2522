import { checkStays, StayError, type Stay } from '#core/roll'
import { writeOneRoster } from '#core/exchange/write-one-roster'
import { rollKind, writeRollCsv, writeRollTable } from '#core/exchange/write-roll'
import { writeWorkbook } from '#core/exchange/workbook'
import { routes, type RollSection, type RollStudent } from '#contract'
import type { Response } from 'express'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import type { Ending } from '#core/exchange/media-types'
import { sendFile } from '../../kernel/send-file'
import { madeOver } from '../../kernel/version'
import { HttpProblem } from '../../kernel/problem'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { rosterNames } from '../../kernel/course/roster-ids'
import type { RollQueries } from './queries'

export function rollRoutes(handle: Handle, db: Db, plans: PlanLoader, roll: RollQueries, writes: CourseWrites): void {
  const teaches = db.prepare<[string, string], { role: string }>(
    "SELECT role FROM course_role WHERE course_id = ? AND person_id = ? AND role IN ('lead', 'marker')",
  )

  const checkTeacher = (courseId: string, teacherId: string | null) => {
    if (teacherId !== null && !teaches.get(courseId, teacherId))
      throw new HttpProblem(422, 'This person has no part in the course that lets them teach.', { field: 'teacherId' })
  }
  const checkCode = (courseId: string, code: string, but: string | null) => {
    const other = roll.roll(courseId).sections.find((s) => s.code.toLowerCase() === code.toLowerCase() && s.id !== but)
    if (other) throw new HttpProblem(422, `The code ${code} is ${other.name}’s: give another one.`, { field: 'code' })
  }
  const checkCandidate = (courseId: string, candidate: string, but: string | null) => {
    const holder = roll.holderOf(courseId, candidate)
    if (holder && holder.id !== but)
      throw new HttpProblem(422, `The number ${candidate} is ${holder.name}’s: give another one.`, { field: 'candidate' })
  }
  const checkSections = (courseId: string, stays: readonly Stay[]) => {
    for (const s of stays)
      if (!roll.section(courseId, s.sectionId)) throw new HttpProblem(422, 'There is no such section.', { field: 'stays' })
    try {
      checkStays(stays)
    } catch (e) {
      if (e instanceof StayError) throw new HttpProblem(422, e.message, { field: 'stays' })
      throw e
    }
  }

  handle(routes.roll, ({ params }) => roll.sent(params.courseId))

  handle(routes.addSection, ({ params: { courseId }, body }) =>
    writes.writeOpen(courseId, (): RollSection => {
      checkCode(courseId, body.code, null)
      checkTeacher(courseId, body.teacherId)
      return roll.section(courseId, roll.addSection(courseId, body))!
    }),
  )

  handle(routes.editSection, ({ params: { courseId, sectionId }, body: { version, ...patch } }) =>
    writes.writeOpen(courseId, (): RollSection => {
      const current = roll.section(courseId, sectionId)
      if (!current) throw new HttpProblem(404, 'There is no such section.')
      madeOver(version, current, 'Somebody changed this section meanwhile.')
      if (patch.code !== undefined) checkCode(courseId, patch.code, sectionId)
      if (patch.teacherId !== undefined) checkTeacher(courseId, patch.teacherId)
      roll.editSection(sectionId, { ...current, ...patch })
      return roll.section(courseId, sectionId)!
    }),
  )

  handle(routes.removeSection, ({ params: { courseId, sectionId } }) =>
    writes.writeOpen(courseId, () => {
      const section = roll.section(courseId, sectionId)
      if (!section) throw new HttpProblem(404, 'There is no such section.')
      const n = roll.everIn(sectionId)
      if (n > 0) throw new HttpProblem(409, `${n} students are or were in ${section.name}: it stays.`)
      roll.removeSection(sectionId)
      return undefined
    }),
  )

  handle(routes.removeStudent, ({ params: { courseId, studentId } }) =>
    writes.writeOpen(courseId, () => {
      const student = roll.student(courseId, studentId)
      if (!student) throw new HttpProblem(404, 'There is no such student.')
      if (roll.scriptsOf(studentId) > 0) throw new HttpProblem(409, `${student.name} has work in this course: withdraw them instead.`)
      roll.removeStudent(studentId)
      return undefined
    }),
  )

  handle(routes.addStudent, ({ params: { courseId }, body: { sectionId, from, ...fields } }) =>
    writes.writeOpen(courseId, (): RollStudent => {
      checkCandidate(courseId, fields.candidate, null)
      checkSections(courseId, [{ sectionId, from, to: null }])
      const id = roll.addStudent(courseId, fields)
      roll.setStays(id, [{ sectionId, from, to: null }])
      return roll.student(courseId, id)!
    }),
  )

  handle(routes.editStudent, ({ params: { courseId, studentId }, body: { version, stays, ...patch } }) =>
    writes.writeOpen(courseId, (): RollStudent => {
      const current = roll.student(courseId, studentId)
      if (!current) throw new HttpProblem(404, 'There is no such student.')
      madeOver(version, current, 'Somebody changed this student meanwhile.')
      if (patch.candidate !== undefined) checkCandidate(courseId, patch.candidate, studentId)
      if (stays) checkSections(courseId, stays)
      roll.editStudent(studentId, { ...current, ...patch })
      if (stays) roll.setStays(studentId, stays)
      return roll.student(courseId, studentId)!
    }),
  )

  handle(routes.setNames, ({ params: { courseId }, body }) =>
    writes.write(courseId, () => {
      roll.setNames(courseId, body.names)
      return { names: body.names }
    }),
  )

  const send = (res: Response, courseId: string, ending: Ending, content: string | Uint8Array) => {
    const { code, term } = plans.load(courseId).plan.head
    return sendFile(res, `roll ${code} ${term}`, ending, content)
  }
  handle(routes.rollCsv, ({ params: { courseId }, res }) => send(res, courseId, 'csv', writeRollCsv(roll.roll(courseId))))
  handle(routes.rollXlsx, async ({ params: { courseId }, res }) => {
    const { header, rows } = writeRollTable(roll.roll(courseId))
    return send(res, courseId, 'xlsx', await writeWorkbook('Roll', header, rows, header.map(rollKind)))
  })
  handle(routes.rollOneRoster, ({ params: { courseId }, res }) =>
    send(res, courseId, 'zip', writeOneRoster(plans.load(courseId).plan.head, roll.roll(courseId), rosterNames(db, courseId))),
  )
}
