import { markerEffects } from '#core/compare'
import { worthReading, type WorthReading } from '#core/bounds'
import { courseError, type ReadingError } from '#core/grades'
import { appliesGrid, HAS_WORK, readingPlaces, SOURCES, toCourse } from '#core/trial'
import type { CourseState } from '../../course/state'

export interface LookNext {
  /** Where one more reading makes grades surest, most first. */
  scripts: (WorthReading & { percent: number; grade: string })[]
  /** Expected number of grades on the wrong side now, of how many. */
  wrong: number
  graded: number
  /** By how much one reading of each assessment is off, in marks, where its readings tell. */
  errors: { assessmentId: string; error: number; scripts: number }[]
  /** Assessments whose error nobody knows: too few scripts were read twice. */
  unknown: string[]
}

/** Scripts read twice that it takes to tell how far a reading is off. */
const ENOUGH = 10
const MOST = 500

/** How unsure the grades are, and the further readings that make them surest; each script once. */
export function lookNext(state: CourseState): LookNext {
  const { tried: w, current, table } = state
  const { width } = w.cells
  const errors: Record<string, ReadingError> = {}
  const known: LookNext['errors'] = []
  table.assessments.forEach((a, at) => {
    const { error, twice, readings } = errorOf(state, at)
    errors[a.id] = { error: twice >= ENOUGH ? error : null, readings }
    if (twice >= ENOUGH && error !== null) known.push({ assessmentId: a.id, error, scripts: twice })
  })
  const course = toCourse(w, current.standing)
  const off = courseError(course, errors, current.result)
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
    errors: known,
    unknown: off.unknown.filter((id) => w.cells.assessment(id) < width),
  }
}

/** How far one reading of an assessment is off, and how many readings stand behind each mark. */
function errorOf({ tried: w, current }: CourseState, at: number): { error: number | null; twice: number; readings: Map<string, number> } {
  const { from, at: places } = readingPlaces(w)
  const applies = appliesGrid(w)
  const columns = { script: [] as number[], marker: [] as number[], mark: [] as number[] }
  const behind = new Map<string, number>()
  let twice = 0
  for (let cell = at; cell < w.cells.count; cell += w.cells.width) {
    const n = from[cell + 1]! - from[cell]!
    if (n === 0 || applies[cell] === 0 || !HAS_WORK[w.scripts.status[cell]!]) continue
    // One reading that counts alone stands for itself, however many there are.
    behind.set(w.cells.studentId(cell), ['agreed', 'ruled'].includes(SOURCES[current.standing.source[cell]!]!) ? n : 1)
    if (n > 1) twice++
    for (let i = from[cell]!; i < from[cell + 1]!; i++) {
      columns.script.push(cell)
      columns.marker.push(w.readings.marker[places[i]!]!)
      columns.mark.push(w.readings.mark[places[i]!]!)
    }
  }
  if (twice < ENOUGH) return { error: null, twice, readings: behind }
  const effects = markerEffects({ ...columns, scripts: w.cells.count, markers: w.markerIds.length })
  return { error: effects?.sdError ?? null, twice, readings: behind }
}
