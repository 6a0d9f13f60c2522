import { gradeCourse, type Course } from '#core/grades'
import { courseOfStudent, readingPlaces } from '#core/trial'
import type { CourseState } from '../../course/state'

export interface OneMore {
  studentId: string
  /** Assessments in which one mark more would lift the grade. */
  up: string[]
  /** Assessments in which one mark less would lower it. */
  down: string[]
  /** Marks in the grade that readings stand behind, and of these the ones that were read more than once. */
  read: number
  twice: number
}

/** Above so many it would take long, and nobody reads on. */
const MOST = 80

/** What one mark more or less would do to the grades of some students, by the whole engine, and how often their work was read. */
export function oneMoreMark({ tried: w, current }: CourseState, studentIds: readonly string[]): OneMore[] {
  const rank = new Map([...current.result.boundaries].sort((a, b) => a.from - b.from).map((b, i) => [b.grade, i]))
  const outOf = new Map(w.course.assessments.map((a) => [a.id, a.outOf]))
  const { from } = readingPlaces(w)
  return studentIds.slice(0, MOST).map((studentId) => {
    const course = courseOfStudent(w, current.standing, studentId)
    const gradeOf = (c: Course) => rank.get(gradeCourse(c).students[0]!.grade ?? '') ?? -1
    const now = gradeOf(course)
    const withMark = (at: number, mark: number): Course => ({
      ...course,
      marks: course.marks.map((m, i) => (i === at ? { ...m, mark } : m)),
    })
    const found: OneMore = { studentId, up: [], down: [], read: 0, twice: 0 }
    course.marks.forEach(({ assessmentId, mark, status }, at) => {
      if (mark === null || (status !== 'in' && status !== 'late')) return
      const cell = w.cells.of(studentId, assessmentId)
      const readings = cell < 0 ? 0 : from[cell + 1]! - from[cell]!
      if (readings > 0) found.read++
      if (readings > 1) found.twice++
      if (mark + 1 <= outOf.get(assessmentId)! && gradeOf(withMark(at, mark + 1)) > now) found.up.push(assessmentId)
      if (mark >= 1 && gradeOf(withMark(at, mark - 1)) < now) found.down.push(assessmentId)
    })
    return found
  })
}
