import { worthReading, type WorthReading } from '#core/bounds'
import { readingPlaces, type GivenErrors, type KnownError } from '#core/trial'
import type { CourseState } from '../../course/state'
import { sureFigures } from '../../parts/sure-figures'

/** Readings that can be asked for at once. */
export const MOST_AT_ONCE = 200

export interface LookNext {
  /** The best further readings, one after the other; a script can be among them twice. */
  scripts: (WorthReading & { percent: number; grade: string })[]
  /** Expected number of wrong grades now, of how many whose error is known. */
  wrong: number
  graded: number
  /** By how much one reading of each assessment is off, in marks, where its readings tell. */
  errors: KnownError[]
  /** Assessments whose error nobody knows: too few scripts were read twice. */
  unknown: string[]
}

/** How unsure the grades are, and the further readings that are expected to make most of them right, the best first. */
export function lookNext(state: CourseState, given: GivenErrors): LookNext {
  const { tried: w, current } = state
  const { width } = w.cells
  const off = current.unsure(given)
  const { from } = readingPlaces(w)
  const room = (studentId: string, assessmentId: string) => {
    const cell = w.cells.of(studentId, assessmentId)
    const read = cell < 0 ? 0 : from[cell + 1]! - from[cell]!
    return read === 0 ? 0 : w.markerIds.length - read
  }
  const student = new Map(current.result.students.map((s) => [s.studentId, s]))
  const { chance, graded } = sureFigures(state, given)
  return {
    scripts: worthReading(current.result, off, MOST_AT_ONCE, room).map((one) => {
      const { adjusted, grade } = student.get(one.studentId)!
      return { ...one, percent: adjusted!, grade: grade! }
    }),
    wrong: chance.reduce((sum, c) => sum + (Number.isNaN(c) ? 0 : 1 - c), 0),
    graded,
    errors: off.known,
    unknown: off.unknown.filter((id) => w.cells.assessment(id) < width),
  }
}
