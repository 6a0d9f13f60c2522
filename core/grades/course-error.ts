import { percentMap } from './adjust-totals'
import { carriedBy, marksByStudent } from './carried-by'
import type { Course, CourseResult, MarkRow } from './course'
import { gradeCourse } from './grade-course'

/** How far one reading of an assessment is off, and how many stand behind each mark. */
export interface ReadingError {
  /** Standard deviation of one reading about the script's own mark, in marks; null where nobody knows. */
  error: number | null
  /** Student → readings that their mark is the mean of; one where nothing is said. */
  readings?: ReadonlyMap<string, number>
  /** Student → marks that one mark of a reading makes once it is rescaled; one where nothing is said. */
  stretch?: ReadonlyMap<string, number>
}

/** What one assessment adds to how unsure a student's course percent is. */
export interface ErrorPart {
  assessmentId: string
  /** Percents of the course, as it is graded, that one more mark of a reading makes. */
  weight: number
  /** Error of one reading, in marks. */
  error: number
  readings: number
}

export interface StudentError {
  studentId: string
  /** Standard error of the course percent as it is graded, in percents. */
  se: number
  parts: ErrorPart[]
}

export interface CourseErrors {
  students: StudentError[]
  /** Assessments that carry something and whose error nobody knows; never taken as none. */
  unknown: string[]
}

/**
 * How unsure each course percent is, by how far readings of its assessments are off: se = √Σ (100·share·e/outOf)²/k. What is dropped,
 * pending, missing or exempt carries nothing; a cap for lateness is not taken into account. What rescales stretches an error by its slope
 * across ± that error.
 * @param errors by assessment
 * @param result of the same course, where it is graded already
 * Source: variances of independent errors add up; Haertel 2006, Reliability, in Educational Measurement, 4th ed.
 */
export function courseError(
  course: Course,
  errors: Readonly<Record<string, ReadingError | undefined>>,
  result: CourseResult = gradeCourse(course),
): CourseErrors {
  return errorsOf(course, marksByStudent(course.marks), errors, result)
}

/** The same of marks that are looked up student by student. */
export function errorsOf(
  course: Omit<Course, 'marks'>,
  marksOf: (studentId: string) => readonly MarkRow[],
  errors: Readonly<Record<string, ReadingError | undefined>>,
  result: CourseResult,
): CourseErrors {
  const unknown = new Set<string>()
  const students: StudentError[] = []
  const { adjustments = [] } = course
  const adjusted = adjustments.length > 0 ? percentMap(adjustments, result.students) : null
  carriedBy(course, result, marksOf, (student, carried) => {
    const parts: ErrorPart[] = []
    for (const { assessment, points, row } of carried) {
      if (row.mark === null || (row.status !== 'in' && row.status !== 'late')) continue
      const known = errors[assessment.id]
      if (known === undefined || known.error === null) unknown.add(assessment.id)
      else
        parts.push({
          assessmentId: assessment.id,
          weight: (points / assessment.outOf) * (known.stretch?.get(student.studentId) ?? 1),
          error: known.error,
          readings: known.readings?.get(student.studentId) ?? 1,
        })
    }
    const plain = errorOf(parts)
    if (adjusted && student.final !== null && plain > 0) {
      const slope = slopeOf(adjusted, student.final, plain)
      for (const p of parts) p.weight *= slope
    }
    students.push({ studentId: student.studentId, se: errorOf(parts), parts })
  })
  return { students, unknown: course.assessments.flatMap((a) => (unknown.has(a.id) ? a.id : [])) }
}

/** How much a map stretches what lies about a place, as far as an error reaches to both sides. */
export const slopeOf = (map: (x: number) => number, at: number, error: number): number => (map(at + error) - map(at - error)) / (2 * error)

/** The standard error that parts make together, in percents. */
export const errorOf = (parts: readonly ErrorPart[]): number =>
  Math.sqrt(parts.reduce((s, p) => s + (p.weight * p.error) ** 2 / p.readings, 0))
