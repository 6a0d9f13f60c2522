import type { Course } from '#core/grades'
import { courseOfStudent, standingOfStudent, type StandingMark } from '#core/trial'
import type { CourseState } from '../../course/state'

export interface StudentFigures {
  studentId: string
  /** The course with this student alone, as the open trial has it. */
  course: Course
  standing: StandingMark[]
  /** Assessments they are left out of. */
  leftOut: string[]
}

/** All that one student's grade follows from. */
export function studentFigures({ tried, current }: CourseState, studentId: string): StudentFigures {
  return {
    studentId,
    course: courseOfStudent(tried, current.standing, studentId),
    standing: standingOfStudent(tried, current.standing, studentId),
    leftOut: Object.entries(tried.leftOut).flatMap(([assessmentId, out]) => (out.includes(studentId) ? assessmentId : [])),
  }
}
