import type { Course } from '#core/grades'
import { courseOfStudent, rescaledTo, standingOfStudent, type StandingMark } from '#core/trial'
import type { CourseState } from '../../course/state'

export interface StudentFigures {
  studentId: string
  /** The course with this student alone, as the open trial has it. */
  course: Course
  /** The same with other marks in it, rescaled as the others are; null where none are tried. */
  ifCourse: Course | null
  standing: StandingMark[]
  /** Assessments they are left out of. */
  leftOut: string[]
}

/** Plain marks that are tried, by assessment. */
export type WhatIf = Readonly<Record<string, number | null>>

/** The marks with others in the place of some: as they would be rescaled, and as late as the work came. */
function marksIf(
  tried: CourseState['tried'],
  { standing }: CourseState['current'],
  { marks }: Course,
  studentId: string,
  what: WhatIf,
): Course['marks'] {
  const rescale = rescaledTo(tried, standing)
  const ifMarked = Object.entries(what).map(([assessmentId, plain]): Course['marks'][number] => {
    const own = marks.find((m) => m.assessmentId === assessmentId)
    const mark = plain === null ? null : rescale(tried.cells.of(studentId, assessmentId), plain)
    return {
      studentId,
      assessmentId,
      mark,
      ...(own?.status === 'late' ? { status: 'late', daysLate: own.daysLate } : { status: 'in', daysLate: 0 }),
    }
  })
  return [...marks.filter((m) => !(m.assessmentId in what)), ...ifMarked]
}

/** All that one student's grade follows from. */
export function studentFigures({ tried, current }: CourseState, studentId: string, what: WhatIf = {}): StudentFigures {
  const course = courseOfStudent(tried, current.standing, studentId)
  return {
    studentId,
    course,
    ifCourse: Object.keys(what).length === 0 ? null : { ...course, marks: marksIf(tried, current, course, studentId, what) },
    standing: standingOfStudent(tried, current.standing, studentId),
    leftOut: Object.entries(tried.leftOut).flatMap(([assessmentId, out]) => (out.includes(studentId) ? assessmentId : [])),
  }
}
