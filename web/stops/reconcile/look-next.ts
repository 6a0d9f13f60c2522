import { inOne, worthReadingInPieces, type WorthReading } from '#core/bounds'
import type { CourseErrors } from '#core/grades'
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

const chosen = new WeakMap<CourseErrors, WorthReading[]>()

/** The best further readings of a course, in pieces; worked out once for errors that stay what they are. */
export function* readingsToAskFor({ tried: w, current }: CourseState, given: GivenErrors): Generator<void, WorthReading[]> {
  const off = current.unsure(given)
  const before = chosen.get(off)
  if (before) return before
  const { from } = readingPlaces(w)
  const room = (studentId: string, assessmentId: string) => {
    const cell = w.cells.of(studentId, assessmentId)
    const read = cell < 0 ? 0 : from[cell + 1]! - from[cell]!
    return read === 0 ? 0 : w.markerIds.length - read
  }
  const found = yield* worthReadingInPieces(current.result, off, MOST_AT_ONCE, room)
  chosen.set(off, found)
  return found
}

/** How unsure the grades are, and the further readings that are expected to make most of them right, the best first. */
export function lookNext(state: CourseState, given: GivenErrors): LookNext {
  const { tried, current } = state
  const off = current.unsure(given)
  const { chance, graded } = sureFigures(state, given)
  const student = new Map(current.result.students.map((s) => [s.studentId, s]))
  return {
    scripts: inOne(readingsToAskFor(state, given)).map((one) => {
      const { adjusted, grade } = student.get(one.studentId)!
      return { ...one, percent: adjusted!, grade: grade! }
    }),
    wrong: chance.reduce((sum, c) => sum + (Number.isNaN(c) ? 0 : 1 - c), 0),
    graded,
    errors: off.known,
    unknown: off.unknown.filter((id) => tried.cells.assessment(id) < tried.cells.width),
  }
}
