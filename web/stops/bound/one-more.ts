import { oneMark } from '#core/grades'
import { courseOfStudent, HAS_WORK, readingPlaces } from '#core/trial'
import type { CourseState } from '../../course/state'

export interface OneMore {
  studentId: string
  /** Assessments in which one mark more would lift the grade, and in which one mark less would lower it. */
  up: string[]
  down: string[]
  /** Works that readings stand behind, and of these the ones that were read more than once. */
  read: number
  twice: number
}

/** What one mark more or less would do to the grades of some students, and how often their work was read. */
export function oneMoreMark({ tried: w, current }: CourseState, studentIds: readonly string[]): OneMore[] {
  const { from } = readingPlaces(w)
  const { width } = w.cells
  return studentIds.map((studentId) => {
    const row = w.cells.student(studentId)
    let [read, twice] = [0, 0]
    for (let cell = row * width; cell < (row + 1) * width; cell++) {
      if (!HAS_WORK[w.scripts.status[cell]!]) continue
      const n = from[cell + 1]! - from[cell]!
      if (n > 0) read++
      if (n > 1) twice++
    }
    return { studentId, ...oneMark(courseOfStudent(w, current.standing, studentId), studentId), read, twice }
  })
}
