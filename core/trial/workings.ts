import type { Condition, Course, Placement } from '../grades/course'
import { applyingExceptions, type DuePlacement } from '../roll/applying'
import type { Stay } from '../roll/stays'
import type { AgreeRule } from '../agree/agree-mark'
import type { StandingRule } from '../agree/standing-rule'
import type { Adjustment } from '../rescale/adjustments'
import type { Cells } from './cells'

/** What is known of the script in each cell. */
export interface ScriptColumns {
  /** NO_SCRIPT, SET_ONLY or RECORDED. */
  there: Uint8Array
  /** Place in STATUSES. */
  status: Uint8Array
  daysLate: Int32Array
  /** Mark typed into the sheet or brought in from a file; NaN where the mark comes from readings, or none is there. */
  entered: Float64Array
}

export const NO_SCRIPT = 0
/** Set for the student, and nothing recorded: pending, and not nothing. */
export const SET_ONLY = 1
export const RECORDED = 2

export interface HandedInReading {
  markerId: string
  mark: number
}

/** Handed-in readings, in the order they were handed in. */
export interface ReadingColumns {
  cell: Int32Array
  /** Place in the workings' markers. */
  marker: Int32Array
  mark: Float64Array
}

/** A condition as it is kept, by an id of its own. */
export type KeptCondition = Condition & { id: string }

/** All that standing marks and grades follow from. */
export interface Workings {
  course: Omit<Course, 'marks' | 'placements' | 'conditions'> & { placements: DuePlacement[]; conditions: KeptCondition[] }
  /** Rows of the course's students, columns of its assessments. */
  cells: Cells
  markerIds: readonly string[]
  /** Times in sections of the students who have been in more than one. */
  stays: Record<string, Stay[]>
  /** Assessment id → students left out of it. */
  leftOut: Record<string, string[]>
  scripts: ScriptColumns
  readings: ReadingColumns
  /** Cell → the agreed mark in force. */
  agreed: ReadonlyMap<number, number>
  /** Cell → the rule by which its mark was agreed, where its readings alone decide and it can be agreed again. */
  agreedBy: ReadonlyMap<number, AgreeRule>
  /** Cells that were settled and opened again since: by a reading that came or changed, or by a decision. */
  reopened: ReadonlySet<number>
  /** Assessment id → how it settles what lies within its tolerance; a person does where nothing is said. */
  agreeBy: Record<string, StandingRule>
  /** Assessment id → tolerance for the spread of readings in its marks, and the step that agreed marks are rounded to. */
  agreeing: Record<string, { tolerance: number; step: number | null }>
  /** The stack, in order. */
  adjustments: Adjustment[]
  /** Assessment id → how many readings a script needs before it has a mark. */
  readingsWanted: Record<string, number>
}

/** Where the readings of each cell stand: those of cell c are `at[from[c]] … at[from[c + 1] − 1]`. */
interface ReadingPlaces {
  from: Int32Array
  places: Int32Array
}

const placesOf = new WeakMap<ReadingColumns, ReadingPlaces>()

/** The readings by cell; worked out once for readings that stay what they are. */
export function readingPlaces({ cells, readings }: Pick<Workings, 'cells' | 'readings'>): ReadingPlaces {
  const known = placesOf.get(readings)
  if (known) return known
  const { cell } = readings
  const from = new Int32Array(cells.count + 1)
  for (const c of cell) from[c + 1]!++
  for (let c = 0; c < cells.count; c++) from[c + 1]! += from[c]!
  const next = from.slice(0, cells.count)
  const places = new Int32Array(cell.length)
  cell.forEach((c, i) => (places[next[c]!++] = i))
  const found = { from, places }
  placesOf.set(readings, found)
  return found
}

/** The readings of one cell, in the order they were handed in. */
export function readingsOf(w: Pick<Workings, 'cells' | 'readings' | 'markerIds'>, cell: number): HandedInReading[] {
  const { from, places } = readingPlaces(w)
  return Array.from(places.subarray(from[cell], from[cell + 1]), (i) => ({
    markerId: w.markerIds[w.readings.marker[i]!]!,
    mark: w.readings.mark[i]!,
  }))
}

type Exceptions = ReturnType<typeof applyingExceptions>
interface WhatApplies {
  for: unknown[]
  exceptions: Exceptions
  grid?: Uint8Array
}
const exceptionsFor = new WeakMap<Workings['leftOut'], WhatApplies>()

function applyingOf(w: Workings): WhatApplies {
  const { students, placements } = w.course
  const by = [students, placements, w.stays]
  const known = exceptionsFor.get(w.leftOut)
  if (known?.for.every((x, i) => x === by[i])) return known
  const fresh: WhatApplies = { for: by, exceptions: applyingExceptions({ ...w.course, stays: w.stays, leftOut: w.leftOut }) }
  exceptionsFor.set(w.leftOut, fresh)
  return fresh
}

/** What applies to the students who differ from their section; worked out once for a plan and roll that stay what they are. */
export const exceptionsOf = (w: Workings): Exceptions => applyingOf(w).exceptions

/** Section → the places of what is set for it. */
export function placedIn(placements: readonly Placement[], cells: Cells): Map<string, number[]> {
  const bySection = new Map<string, number[]>()
  for (const { assessmentId, sectionId } of placements) {
    const assessment = cells.assessment(assessmentId)
    if (assessment < 0) continue
    const list = bySection.get(sectionId)
    if (list) list.push(assessment)
    else bySection.set(sectionId, [assessment])
  }
  return bySection
}

/** For each cell, 1 where the assessment is set for the student: status and policy come after. */
export function appliesGrid(w: Workings): Uint8Array {
  const known = applyingOf(w)
  if (known.grid) return known.grid
  const { cells } = w
  const bySection = placedIn(w.course.placements, cells)
  const grid = new Uint8Array(cells.count)
  w.course.students.forEach(({ id, sectionId }, s) => {
    const own = known.exceptions.get(id)
    const applies = own ? [...own.keys()].map(cells.assessment) : bySection.get(sectionId)
    for (const a of applies ?? []) if (a >= 0) grid[s * cells.width + a] = 1
  })
  known.grid = grid
  return grid
}
