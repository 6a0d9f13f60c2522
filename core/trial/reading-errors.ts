import { errorsOf, slopeOf, type CourseErrors, type ReadingError } from '../grades/course-error'
import { rescaledTo } from './rescaled-marks'
import { effectsIn } from './assessment-effects'
import type { Standing } from './standing'
import type { Graded } from './grade-workings'
import { SOURCES, totalAdjustments } from './standing-marks'
import { readingPlaces, type Workings } from './workings'

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
 * @param graded of the same marks
 */
export function unsureOf(w: Workings, standing: Standing, { packed, columns }: Graded, given: GivenErrors = NOTHING_GIVEN): Unsure {
  const { components, assessments, policy } = w.course
  const by = [w.readings, w.scripts, w.leftOut, components, assessments, policy, JSON.stringify([given, totalAdjustments(w)])]
  const before = told.get(standing)
  if (before?.by.every((x, i) => x === by[i])) return before.unsure
  const errors: Record<string, ReadingError> = {}
  const known: KnownError[] = []
  assessments.forEach((a, at) => {
    const { read, twice, effects } = effectsIn(w, at)
    const byReadings = effects?.sdError ?? null
    const used = byReadings ?? given[a.id] ?? null
    const readings = used === null ? null : readingsBehind(w, standing, read)
    const stretch = used !== null && used > 0 ? stretchOf(w, standing, at, used) : null
    errors[a.id] = { error: used, ...(readings && { readings }), ...(stretch && { stretch }) }
    if (used !== null) known.push({ assessmentId: a.id, error: used, scripts: byReadings === null ? null : twice })
  })
  const unsure = { ...errorsOf(packed, columns.table, errors), known }
  told.set(standing, { by, unsure })
  return unsure
}

/** By how much rescaling stretches an error in each mark of an assessment, student by student; null where it is not rescaled. */
function stretchOf(w: Workings, standing: Standing, at: number, error: number): Float64Array | null {
  const { width, assessmentIds, studentIds } = w.cells
  if (!w.adjustments.some((a) => a.on && a.assessmentId === assessmentIds[at])) return null
  const rescaled = rescaledTo(w, standing)
  const stretch = new Float64Array(studentIds.length).fill(1)
  for (let row = 0; row < stretch.length; row++) {
    const cell = row * width + at
    const plain = standing.plain[cell]!
    if (!Number.isNaN(plain)) stretch[row] = slopeOf((mark) => rescaled(cell, mark), plain, error)
  }
  return stretch
}

/** Whether the mark is what several readings came to. */
const MEANS = SOURCES.map((s) => s === 'agreed' || s === 'ruled')

/** How many readings stand behind each student’s mark of an assessment; one that counts alone stands for itself, however many there are. */
function readingsBehind(w: Workings, standing: Standing, read: readonly number[]): Int32Array {
  const { from } = readingPlaces(w)
  const readings = new Int32Array(w.cells.studentIds.length).fill(1)
  for (const cell of read) if (MEANS[standing.source[cell]!]) readings[Math.floor(cell / w.cells.width)] = from[cell + 1]! - from[cell]!
  return readings
}
