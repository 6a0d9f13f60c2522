import { percentMap } from './adjust-totals'
import { carriedBy } from './carried-by'
import type { Course } from './course'
import { gradePacked } from './grade-course'
import type { GradeTable } from './grade-table'
import { packCourse, STATUS_CODE, type PackedCourse } from './pack'

/** How far one reading of an assessment is off, and how many stand behind each mark. */
export interface ReadingError {
  /** Standard deviation of one reading about the script's own mark, in marks; null where nobody knows. */
  error: number | null
  /** By student, in the roll’s order: readings that the mark is the mean of; one where nothing is said. */
  readings?: ArrayLike<number>
  /** By student, in the roll’s order: marks that one mark of a reading makes once it is rescaled; one where nothing is said. */
  stretch?: ArrayLike<number>
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
 * Source: variances of independent errors add up; Haertel 2006, Reliability, in Educational Measurement, 4th ed.
 */
export function courseError(course: Course, errors: Readonly<Record<string, ReadingError | undefined>>): CourseErrors {
  const packed = packCourse(course)
  return errorsOf(packed, gradePacked(packed), errors)
}

/** The same of a course in columns, with its grades. */
export function errorsOf(
  course: PackedCourse,
  table: GradeTable,
  errors: Readonly<Record<string, ReadingError | undefined>>,
): CourseErrors {
  const { assessmentIds, studentIds, planOrder, outOf, mark, status, adjustments } = course
  const width = assessmentIds.length
  const known = assessmentIds.map((id) => errors[id])
  const unknown = new Set<number>()
  const adjusted = adjustments.length > 0 ? percentMap(adjustments, table.final) : null
  const students: StudentError[] = []
  carriedBy(course, table, (row, { points }) => {
    const parts: ErrorPart[] = []
    for (let a = 0; a < width; a++) {
      const cell = row * width + a
      const read = status[cell] === STATUS_CODE.in || status[cell] === STATUS_CODE.late
      if (points[a] !== points[a] || mark[cell] !== mark[cell] || !read) continue
      const { error, stretch, readings } = known[a] ?? UNKNOWN
      if (error === null) unknown.add(a)
      else
        parts.push({
          assessmentId: assessmentIds[a]!,
          weight: (points[a]! / outOf[a]!) * (stretch?.[row] ?? 1),
          error,
          readings: readings?.[row] ?? 1,
        })
    }
    const plain = errorOf(parts)
    const final = table.final[row]!
    if (adjusted && final === final && plain > 0) {
      const slope = slopeOf(adjusted, final, plain)
      for (const p of parts) p.weight *= slope
    }
    students.push({ studentId: studentIds[row]!, se: errorOf(parts), parts })
  })
  const inPlan = [...unknown].sort((a, b) => planOrder[a]! - planOrder[b]!)
  return { students, unknown: inPlan.map((a) => assessmentIds[a]!) }
}

const UNKNOWN: ReadingError = { error: null }

/** How much a map stretches what lies about a place, as far as an error reaches to both sides. */
export const slopeOf = (map: (x: number) => number, at: number, error: number): number => (map(at + error) - map(at - error)) / (2 * error)

/** The standard error that parts make together, in percents. */
export const errorOf = (parts: readonly ErrorPart[]): number =>
  Math.sqrt(parts.reduce((s, p) => s + (p.weight * p.error) ** 2 / p.readings, 0))
