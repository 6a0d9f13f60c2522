import { STATUSES, type Course } from './course'
import { gradeOne } from './grade-course'
import { packCourse } from './pack'
import { descending } from './rounding'

const WITH_WORK = new Set(['in', 'late'].map((s) => STATUSES.indexOf(s as 'in')))

/**
 * In which assessments one mark more would lift a student's grade, and in which one mark less would lower it: by the whole engine, with
 * drops, lateness, adjustments and conditions.
 * @returns ids of assessments, in the order of the plan
 * @throws CourseError where the course contradicts itself
 */
export function oneMark(course: Course, studentId: string): { up: string[]; down: string[] } {
  const packed = packCourse(course)
  const student = packed.studentIds.indexOf(studentId)
  const order = descending(course.boundaries).map((b) => b.grade)
  const place = () => {
    const { grade } = gradeOne(packed, student).result
    return grade === null ? order.length : order.indexOf(grade)
  }
  const now = place()
  const found: { up: string[]; down: string[] } = { up: [], down: [] }
  const columns = packed.assessmentIds.map((_, a) => a).sort((a, b) => packed.planOrder[a]! - packed.planOrder[b]!)
  for (const a of columns) {
    const cell = student * packed.assessmentIds.length + a
    const mark = packed.mark[cell]!
    if (mark !== mark || !WITH_WORK.has(packed.status[cell]!)) continue
    const placeWith = (other: number) => {
      packed.mark[cell] = other
      const then = place()
      packed.mark[cell] = mark
      return then
    }
    if (mark + 1 <= packed.outOf[a]! && placeWith(mark + 1) < now) found.up.push(packed.assessmentIds[a]!)
    if (mark >= 1 && placeWith(mark - 1) > now) found.down.push(packed.assessmentIds[a]!)
  }
  return found
}
