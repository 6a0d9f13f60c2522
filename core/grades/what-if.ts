import { CourseError, type Course, type StudentResult } from './course'
import { gradeOne, PENDING } from './grade-course'
import { packCourse } from './pack'
import { descending } from './rounding'

/** Marks that are tried, by assessment, on the assessments' own scales. */
export type TriedMarks = Readonly<Record<string, number>>

/** A student's work that is still open: what is pending, in the order of the plan. */
export function openWork(course: Course, studentId: string): string[] {
  const packed = packCourse(course)
  const { grader } = gradeOne(packed, placeOf(packed.studentIds, studentId))
  const open = new Set(packed.assessmentIds.filter((_, a) => grader.state[a] === PENDING))
  return course.assessments.flatMap((a) => (open.has(a.id) ? a.id : []))
}

/**
 * What a student's result would be if open work came back with these marks, late work with its lateness; by the whole engine, and nothing
 * else is touched.
 * @throws CourseError for an unknown student or assessment
 */
export function whatIf(course: Course, studentId: string, tried: TriedMarks): StudentResult {
  const { result } = gradeOne(...triedOut(course, studentId, tried))
  return result
}

export interface Needed {
  /** Whether the grade can be reached at all. */
  within: boolean
  /** The marks that do it: those that are held, and for the others the least that are alike in percent; at the maximum where it is out of reach. */
  marks: Record<string, number>
  /** What the result would be with them. */
  result: StudentResult
}

/** Finer than any step of marks. */
const FINE = 2 ** 14

/**
 * The least that a student needs in what is still open for a grade, everything that is not held alike in percent. A bonus is asked of nobody:
 * it counts with what is held for it, else with 0.
 * @param grade one of the course's
 * @param held marks that stay as they are
 * @param step marks come in multiples of it; what is out of 1 is there or not
 * @throws CourseError for an unknown student, assessment or grade
 */
export function needed(course: Course, studentId: string, grade: string, held: TriedMarks = {}, step = 0.5): Needed {
  const order = descending(course.boundaries).map((b) => b.grade)
  const wanted = order.indexOf(grade)
  if (wanted < 0) throw new CourseError(`There is no grade ${grade}.`, 'grade')
  const open = new Set(openWork(course, studentId))
  const free = course.assessments.filter((a) => open.has(a.id) && !(a.id in held))
  const stepOf = ({ outOf }: { outOf: number }) => (outOf <= 1 ? outOf : step)
  const marksAt = (k: number): Record<string, number> => ({
    ...held,
    ...Object.fromEntries(
      free.map((a) => [a.id, a.bonus ? 0 : Math.min(a.outOf, Math.ceil((a.outOf * k) / FINE / stepOf(a)) * stepOf(a))]),
    ),
  })
  const tryAt = (k: number) => {
    const marks = marksAt(k)
    const result = whatIf(course, studentId, marks)
    return { within: result.grade !== null && order.indexOf(result.grade) <= wanted, marks, result }
  }
  const most = tryAt(FINE)
  if (!most.within) return most
  // More marks never make less of a grade, so that halves can be left out.
  let [low, high] = [-1, FINE]
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2)
    if (tryAt(middle).within) high = middle
    else low = middle
  }
  return tryAt(high)
}

function placeOf(studentIds: readonly string[], studentId: string): number {
  const at = studentIds.indexOf(studentId)
  if (at < 0) throw new CourseError(`Student ${studentId} is not on the roll.`, 'studentId')
  return at
}

function triedOut(course: Course, studentId: string, tried: TriedMarks): [ReturnType<typeof packCourse>, number] {
  const known = new Set(course.assessments.map((a) => a.id))
  const strange = Object.keys(tried).find((id) => !known.has(id))
  if (strange !== undefined) throw new CourseError(`There is no assessment ${strange}.`, 'tried')
  const kept = course.marks.filter((m) => m.studentId !== studentId || !(m.assessmentId in tried))
  // What came late stays late, whatever it comes back with.
  const late = new Map(
    course.marks.flatMap((m) => (m.studentId === studentId && m.status === 'late' ? [[m.assessmentId, m.daysLate] as const] : [])),
  )
  const marks = Object.entries(tried).map(([assessmentId, mark]) => {
    const daysLate = late.get(assessmentId)
    return { studentId, assessmentId, mark, status: daysLate === undefined ? ('in' as const) : ('late' as const), daysLate: daysLate ?? 0 }
  })
  const packed = packCourse({ ...course, marks: [...kept, ...marks] })
  return [packed, placeOf(packed.studentIds, studentId)]
}
