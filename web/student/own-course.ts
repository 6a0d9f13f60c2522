import { effectiveWeights, gradeCourse, type Course, type StudentResult } from '#core/grades'
import type { OwnCourse } from '#contract'

/** The one student of it. */
export const ME = 'me'

/** A student's own course as the engine takes it. */
export function asCourse({ policy, components, assessments, marks, boundaries, conditions }: OwnCourse): Course {
  return {
    policy,
    components,
    assessments,
    placements: assessments.map((a) => ({ assessmentId: a.id, sectionId: ME })),
    students: [{ id: ME, sectionId: ME }],
    marks: marks.map((m) => ({ ...m, studentId: ME })),
    boundaries,
    conditions,
  }
}

export const standingIn = (course: Course): StudentResult => gradeCourse(course).students[0]!

/** The share of the course that each assessment carries, of 1; nothing for a bonus. */
export function sharesOf(course: Course): Map<string, number> {
  const [own] = effectiveWeights(course)
  return new Map((own?.weights ?? []).flatMap((w) => (w.share === null ? [] : [[w.assessmentId, w.share]])))
}

/** Grades, the best first, with the place of the one that a percent has. */
export function gradeAt(course: Course, percent: number): { grades: Course['boundaries']; place: number } {
  const grades = course.boundaries.toSorted((a, b) => b.from - a.from)
  return { grades, place: grades.findIndex((b) => percent >= b.from) }
}
