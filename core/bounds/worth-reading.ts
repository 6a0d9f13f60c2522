import type { CourseErrors } from '../grades/course-error'
import { errorOf } from '../grades/course-error'
import type { CourseResult } from '../grades/course'
import { chanceOfGrade } from './grade-certainty'

export interface WorthReading {
  studentId: string
  assessmentId: string
  /** That stand behind the mark now. */
  readings: number
  /** By how much the expected number of grades on the wrong side falls. */
  gain: number
  /** Chance that the grade is the right one, before and after one more reading. */
  chance: number
  chanceAfter: number
}

/** Below this a grade does not move. */
const LEAST_GAIN = 1e-6

/**
 * Where one more reading makes grades surest: for every script that was read, by how much a further reading lowers the expected number
 * of grades on the wrong side; most first. Only where the grade can move.
 * @param errors of the same course
 * @param mayRead whether a script can be read once more; all where it is left out
 */
export function worthReading(
  { students, boundaries, rounding }: CourseResult,
  errors: CourseErrors,
  mayRead: (studentId: string, assessmentId: string) => boolean = () => true,
): WorthReading[] {
  const errorFor = new Map(errors.students.map((s) => [s.studentId, s]))
  const found: WorthReading[] = []
  for (const { studentId, adjusted: percent } of students) {
    const own = errorFor.get(studentId)
    if (percent === null || !own || own.se === 0) continue
    const chance = chanceOfGrade(percent, own.se, boundaries, rounding)
    for (const part of own.parts) {
      if (!mayRead(studentId, part.assessmentId)) continue
      const once = { ...part, readings: part.readings + 1 }
      const se = errorOf(own.parts.map((p) => (p === part ? once : p)))
      const chanceAfter = chanceOfGrade(percent, se, boundaries, rounding)
      const gain = chanceAfter - chance
      if (gain > LEAST_GAIN) found.push({ studentId, assessmentId: part.assessmentId, readings: part.readings, gain, chance, chanceAfter })
    }
  }
  return found.sort((a, b) => b.gain - a.gain || (a.studentId < b.studentId ? -1 : a.studentId > b.studentId ? 1 : 0))
}
