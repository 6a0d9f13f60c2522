import { gradeAt } from '#core/bounds'
import { gradeCourse } from '#core/grades'
import { percentOf } from '#core/rescale'
import { courseOfStudent, rescaledTo } from '#core/trial'
import type { CourseState } from '../../course/state'

/** What a student would get by another mark on one script. */
export interface GradeIf {
  /** What counts: the mark once it is rescaled as the others are. */
  mark: number
  percent: number | null
  grade: string | null
  /** Something else is still open, so that this is the grade so far. */
  soFar: boolean
}

/** What other plain marks in a cell would lead to, rescaled as the assessment is, the other students being what they are. */
export function gradesIn(state: CourseState): (cell: number) => (plain: number) => GradeIf {
  const { tried, current } = state
  const rescale = rescaledTo(tried, current.standing)
  return (cell) => {
    const assessmentId = tried.cells.assessmentId(cell)
    const course = courseOfStudent(tried, current.standing, tried.cells.studentId(cell))
    return (plain) => {
      const mark = rescale(cell, plain)
      const marks = course.marks.map((m) => (m.assessmentId === assessmentId ? { ...m, mark } : m))
      const student = gradeCourse({ ...course, marks }).students[0]!
      const percent = percentOf(student)
      const grade = student.grade ?? (percent === null ? null : gradeAt(percent, course.boundaries, course.policy.rounding))
      return { mark, percent, grade, soFar: student.grade === null }
    }
  }
}

/** The same for one script, as a screen asks for it. */
export function gradesIf(state: CourseState, scriptId: string, plain: readonly number[]): { scriptId: string; grades: GradeIf[] } {
  const cell = state.tried.cells.ofScript(scriptId)
  return { scriptId, grades: cell < 0 ? [] : plain.map(gradesIn(state)(cell)) }
}
