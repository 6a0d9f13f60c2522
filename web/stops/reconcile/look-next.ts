import { worthReading, type WorthReading } from '#core/bounds'
import { readingPlaces, type KnownError } from '#core/trial'
import type { CourseState } from '../../course/state'

export interface LookNext {
  /** Where one more reading makes grades surest, most first. */
  scripts: (WorthReading & { percent: number; grade: string })[]
  /** Expected number of grades on the wrong side now, of how many. */
  wrong: number
  graded: number
  /** By how much one reading of each assessment is off, in marks, where its readings tell. */
  errors: KnownError[]
  /** Assessments whose error nobody knows: too few scripts were read twice. */
  unknown: string[]
}

const MOST = 500

/** How unsure the grades are, and the further readings that make them surest; each script once. */
export function lookNext(state: CourseState): LookNext {
  const { tried: w, current } = state
  const { width } = w.cells
  const off = current.unsure()
  const { from } = readingPlaces(w)
  const worth = worthReading(current.result, off, (studentId, assessmentId) => {
    const cell = w.cells.of(studentId, assessmentId)
    return cell >= 0 && from[cell + 1]! > from[cell]!
  })
  const student = new Map(current.result.students.map((s) => [s.studentId, s]))
  const first = new Map<string, WorthReading>()
  // One for each student: a second reading of another script of theirs would be worth less by then.
  for (const one of worth) if (!first.has(one.studentId)) first.set(one.studentId, one)
  const chances = new Map<string, number>()
  for (const one of worth) chances.set(one.studentId, one.chance)
  return {
    scripts: [...first.values()].slice(0, MOST).map((one) => {
      const { adjusted, grade } = student.get(one.studentId)!
      return { ...one, percent: adjusted!, grade: grade! }
    }),
    wrong: [...chances.values()].reduce((s, c) => s + 1 - c, 0),
    graded: current.result.students.filter((s) => s.grade !== null).length,
    errors: off.known,
    unknown: off.unknown.filter((id) => w.cells.assessment(id) < width),
  }
}
