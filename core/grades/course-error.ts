import type { Assessment, Component, Course, CourseResult, MarkRow } from './course'
import { gradeCourse } from './grade-course'

/** How far one reading of an assessment is off, and how many stand behind each mark. */
export interface ReadingError {
  /** Standard deviation of one reading about the script's own mark, in marks; null where nobody knows. */
  error: number | null
  /** Student → readings that their mark is the mean of; one where nothing is said. */
  readings?: ReadonlyMap<string, number>
}

/** What one assessment adds to how unsure a student's course percent is. */
export interface ErrorPart {
  assessmentId: string
  /** Percents of the course that one more mark in it makes. */
  weight: number
  /** Error of one reading, in marks. */
  error: number
  readings: number
}

export interface StudentError {
  studentId: string
  /** Standard error of the course percent, in percents. */
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
 * pending, missing or exempt carries nothing; a cap for lateness is not taken into account.
 * @param errors by assessment
 * @param result of the same course, where it is graded already
 * Source: variances of independent errors add up; Haertel 2006, Reliability, in Educational Measurement, 4th ed.
 */
export function courseError(
  course: Course,
  errors: Readonly<Record<string, ReadingError | undefined>>,
  result: CourseResult = gradeCourse(course),
): CourseErrors {
  const marks = new Map<string, MarkRow[]>()
  for (const m of course.marks) {
    const own = marks.get(m.studentId)
    if (own) own.push(m)
    else marks.set(m.studentId, [m])
  }
  const placed = new Map<string, Set<string>>()
  for (const p of course.placements) {
    const own = placed.get(p.sectionId)
    if (own) own.add(p.assessmentId)
    else placed.set(p.sectionId, new Set([p.assessmentId]))
  }
  const sectionOf = new Map(course.students.map((s) => [s.id, s.sectionId]))
  const counting = new Map(course.components.map((c) => [c.id, course.assessments.filter((a) => a.counts && a.componentId === c.id)]))
  const unknown = new Set<string>()
  const students = result.students.map((student): StudentError => {
    const there = placed.get(sectionOf.get(student.studentId)!) ?? new Set<string>()
    const own = new Map((marks.get(student.studentId) ?? []).map((m) => [m.assessmentId, m]))
    const parts = carriedBy(course.components, counting, student, there, own, course.policy).flatMap(({ assessment, points }) => {
      const row = own.get(assessment.id)
      if (!row || row.mark === null || (row.status !== 'in' && row.status !== 'late')) return []
      const known = errors[assessment.id]
      if (known === undefined || known.error === null) {
        unknown.add(assessment.id)
        return []
      }
      return [
        {
          assessmentId: assessment.id,
          weight: points / assessment.outOf,
          error: known.error,
          readings: known.readings?.get(student.studentId) ?? 1,
        },
      ]
    })
    return { studentId: student.studentId, se: errorOf(parts), parts }
  })
  return { students, unknown: course.assessments.flatMap((a) => (unknown.has(a.id) ? a.id : [])) }
}

/** The standard error that parts make together, in percents. */
export const errorOf = (parts: readonly ErrorPart[]): number =>
  Math.sqrt(parts.reduce((s, p) => s + (p.weight * p.error) ** 2 / p.readings, 0))

/** Points of the course percent that full marks in each assessment are, of what is scored and not dropped. */
function carriedBy(
  components: readonly Component[],
  counting: ReadonlyMap<string, readonly Assessment[]>,
  { components: results }: CourseResult['students'][number],
  placed: ReadonlySet<string>,
  own: ReadonlyMap<string, MarkRow>,
  policy: Course['policy'],
): { assessment: Assessment; points: number }[] {
  const scored = (a: Assessment) => placed.has(a.id) && isScored(own.get(a.id), policy)
  const carried = components.flatMap((component, i) => {
    if (results[i]?.percent === null || results[i] === undefined) return []
    const dropped = new Set(results[i].dropped)
    const all = counting.get(component.id)!.filter((a) => scored(a) && !dropped.has(a.id))
    const inside = (a: Assessment) => (component.combine === 'equally' ? 1 : a.worth)
    const sum = all.reduce((s, a) => s + (a.bonus ? 0 : inside(a)), 0)
    return sum > 0 ? [{ component, all, share: (a: Assessment) => inside(a) / sum }] : []
  })
  const ordinary = carried.reduce((s, c) => s + (c.component.bonus ? 0 : c.component.weight), 0)
  // Without an ordinary component that carries anything there is no course percent.
  if (ordinary <= 0) return []
  return carried.flatMap(({ component, all, share }) => {
    const of = component.bonus ? 100 : ordinary
    return all.map((assessment) => ({ assessment, points: ((100 * component.weight) / of) * share(assessment) }))
  })
}

function isScored(row: MarkRow | undefined, policy: Course['policy']): boolean {
  if (!row) return false
  if (row.status === 'missing') return policy.missing.kind !== 'pending'
  if (row.status === 'absent') return policy.absent.kind === 'zero'
  return (row.status === 'in' || row.status === 'late') && row.mark !== null
}
