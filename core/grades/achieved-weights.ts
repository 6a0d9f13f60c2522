import { carriedBy, marksByStudent } from './carried-by'
import type { Course, CourseResult } from './course'
import { gradeCourse } from './grade-course'

export interface AchievedWeight {
  assessmentId: string
  /** Share of how the finals differ that came from it; null where they do not differ. */
  share: number | null
  /** Standard deviation of its points of the course percent. */
  sd: number | null
}

/**
 * What each assessment really decides: cov(x, T) / var(T), with x the points of the course percent T that came from it; over students
 * with a final percent. What is dropped, or does not apply, gives nothing. The shares sum to 1 but for what a cap takes off.
 * @param result of the same course, where it is graded already
 * Source: Wang & Stanley 1970, Differential weighting, Review of Educational Research 40:663–705.
 */
export function achievedWeights(course: Course, result: CourseResult = gradeCourse(course)): AchievedWeight[] {
  const n = result.students.filter((s) => s.final !== null).length
  const sums = new Map(course.assessments.map((a) => [a.id, { x: 0, xx: 0, xt: 0 }]))
  let [t, tt] = [0, 0]
  // Held against the first of them, so that nothing is lost where large numbers are alike.
  const about = result.students.find((s) => s.final !== null)?.final ?? 0
  carriedBy(course, result, marksByStudent(course.marks), (student, parts) => {
    if (student.final === null) return
    const final = student.final - about
    t += final
    tt += final ** 2
    for (const { assessment, points, fraction } of parts) {
      const x = points * fraction
      const own = sums.get(assessment.id)!
      own.x += x
      own.xx += x * x
      own.xt += x * final
    }
  })
  const variance = n < 2 ? 0 : (tt - (t * t) / n) / (n - 1)
  return course.assessments.map(({ id }) => {
    const { x, xx, xt } = sums.get(id)!
    if (n < 2 || variance <= VARIES) return { assessmentId: id, share: null, sd: null }
    return {
      assessmentId: id,
      share: (xt - (x * t) / n) / (n - 1) / variance,
      sd: Math.sqrt(Math.max(0, (xx - (x * x) / n) / (n - 1))),
    }
  })
}

/** Below this finals are all the same. */
const VARIES = 1e-12
