import { markerEffects } from '../compare/marker-effects'
import type { CourseResult } from '../grades/course'
import { errorsOf, slopeOf, type CourseErrors, type ReadingError } from '../grades/course-error'
import { rescaledTo } from './rescaled-marks'
import type { Standing } from './standing'
import { HAS_WORK, planForGrades, SOURCES, standingOfStudent, totalAdjustments } from './standing-marks'
import { appliesGrid, readingPlaces, type Workings } from './workings'

/** Scripts read twice that it takes to tell how far a reading is off. */
const ENOUGH = 10

/** By how much one reading of an assessment is off, in marks, as its readings tell. */
export interface KnownError {
  assessmentId: string
  error: number
  /** How many of its scripts were read twice; null where a person said it. */
  scripts: number | null
}

/** How unsure course percents are, and what that was told by. */
export interface Unsure extends CourseErrors {
  known: KnownError[]
}

/** What people say of assessments whose readings do not tell: assessment id → error of one reading, in marks. */
export type GivenErrors = Readonly<Record<string, number>>
const NOTHING_GIVEN: GivenErrors = {}

const told = new WeakMap<Standing, { by: unknown[]; unsure: Unsure }>()

/**
 * How unsure each course percent is, by how far readings of its assessments are off; worked out once for marks and plan that stay what
 * they are.
 * @param result of the same marks
 */
export function unsureOf(w: Workings, standing: Standing, result: CourseResult, given: GivenErrors = NOTHING_GIVEN): Unsure {
  const { components, assessments, policy } = w.course
  const by = [w.readings, w.scripts, w.leftOut, components, assessments, policy, JSON.stringify([given, totalAdjustments(w)])]
  const before = told.get(standing)
  if (before?.by.every((x, i) => x === by[i])) return before.unsure
  const errors: Record<string, ReadingError> = {}
  const known: KnownError[] = []
  assessments.forEach((a, at) => {
    const { error, twice, readings } = errorOf(w, standing, at, a.id in given)
    const tells = error !== null && twice >= ENOUGH
    const used = tells ? error : (given[a.id] ?? null)
    const stretch = used !== null && used > 0 ? stretchOf(w, standing, at, used) : null
    errors[a.id] = { error: used, ...(readings && { readings }), ...(stretch && { stretch }) }
    if (used !== null) known.push({ assessmentId: a.id, error: used, scripts: tells ? twice : null })
  })
  const unsure = { ...errorsOf(planForGrades(w), (id) => standingOfStudent(w, standing, id), errors, result), known }
  told.set(standing, { by, unsure })
  return unsure
}

/** By how much rescaling stretches an error in each mark of an assessment; null where it is not rescaled. */
function stretchOf(w: Workings, standing: Standing, at: number, error: number): Map<string, number> | null {
  const assessmentId = w.cells.assessmentIds[at]!
  if (!w.adjustments.some((a) => a.on && a.assessmentId === assessmentId)) return null
  const rescaled = rescaledTo(w, standing)
  const stretch = new Map<string, number>()
  for (let cell = at; cell < w.cells.count; cell += w.cells.width) {
    const plain = standing.plain[cell]!
    if (!Number.isNaN(plain))
      stretch.set(
        w.cells.studentId(cell),
        slopeOf((mark) => rescaled(cell, mark), plain, error),
      )
  }
  return stretch
}

interface Told {
  error: number | null
  /** Scripts read twice or more. */
  twice: number
  /** How many readings stand behind each mark; null where no error is known that they would make smaller. */
  readings: Map<string, number> | null
}

/**
 * How far one reading of an assessment is off, and how many readings stand behind each mark.
 * @param isGiven whether a person says how far, where its readings do not tell
 */
function errorOf(w: Workings, standing: Standing, at: number, isGiven: boolean): Told {
  const { from, at: places } = readingPlaces(w)
  const applies = appliesGrid(w)
  const read: number[] = []
  let twice = 0
  for (let cell = at; cell < w.cells.count; cell += w.cells.width) {
    const n = from[cell + 1]! - from[cell]!
    if (n === 0 || applies[cell] === 0 || !HAS_WORK[w.scripts.status[cell]!]) continue
    read.push(cell)
    if (n > 1) twice++
  }
  const tells = twice >= ENOUGH
  if (!tells && !isGiven) return { error: null, twice, readings: null }
  // One reading that counts alone stands for itself, however many there are.
  const counts = (cell: number) => (['agreed', 'ruled'].includes(SOURCES[standing.source[cell]!]!) ? from[cell + 1]! - from[cell]! : 1)
  const readings = new Map(read.map((cell) => [w.cells.studentId(cell), counts(cell)]))
  if (!tells) return { error: null, twice, readings }
  const columns = { script: [] as number[], marker: [] as number[], mark: [] as number[] }
  for (const cell of read)
    for (let i = from[cell]!; i < from[cell + 1]!; i++) {
      columns.script.push(cell)
      columns.marker.push(w.readings.marker[places[i]!]!)
      columns.mark.push(w.readings.mark[places[i]!]!)
    }
  const effects = markerEffects({ ...columns, scripts: w.cells.count, markers: w.markerIds.length })
  return { error: effects?.sdError ?? null, twice, readings }
}
