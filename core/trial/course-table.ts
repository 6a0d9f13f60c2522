import { STATUSES, type Boundary, type Course, type Policy, type Status } from '../grades/course'
import { ruleAgain } from '../agree/agreed-by'
import type { StandingRule } from '../agree/standing-rule'
import type { Adjustment } from '../rescale/adjustments'
import type { DuePlacement } from '../roll/applying'
import type { Stay } from '../roll/stays'
import type { PlanFacts } from './open-items'
import { Cells, isScriptIdOf } from './cells'
import { placedIn, SET_ONLY, NO_SCRIPT, RECORDED, type KeptCondition, type ScriptColumns, type Workings } from './workings'

/** A course as it travels: lists of what there is, and scripts and readings as columns of places in them. */
export interface TableLike {
  policy: Policy
  boundaries: Boundary[]
  conditions?: KeptCondition[]
  students: { id: string; sectionId: string }[]
  markers: { id: string }[]
  components: (Omit<Course['components'][number], 'weight'> & { weight: number | null })[]
  assessments: (Omit<Course['assessments'][number], 'worth'> & {
    worth: number | null
    readingsWanted: number
    tolerance: number
    step?: number | null
  })[]
  placements: DuePlacement[]
  /** Times in sections of the students who have been in more than one. */
  stays: Record<string, Stay[]>
  /** Assessment id → students left out of it. */
  leftOut: Record<string, string[]>
  scripts: {
    /** Their ids; one that is not there is what `scriptIdOf` gives. */
    id: { readonly [place: number]: string | undefined }
    student: ArrayLike<number>
    assessment: ArrayLike<number>
    /** Places in STATUSES. */
    status: ArrayLike<number>
    daysLate: ArrayLike<number>
    /** What was typed; null or NaN for nothing. */
    entered: ArrayLike<number | null>
  }
  /** In the order they were handed in; scripts and markers by their places. */
  readings: { script: ArrayLike<number>; marker: ArrayLike<number>; mark: ArrayLike<number> }
  agreed: Record<string, number>
  /** Of those whose readings alone decide: the scripts by the word for their rule. */
  agreedBy?: Record<string, readonly string[]>
  /** Scripts that were settled and opened again since. */
  reopened?: readonly string[]
  /** How assessments settle what lies within their tolerance. */
  agreeBy?: Record<string, StandingRule>
  adjustments: Adjustment[]
}

/** Marks as blank what is set for a student and has no script yet. */
function addBlanks(there: Uint8Array, t: PlanOfTable, cells: Cells): void {
  const bySection = placedIn(t.placements, cells)
  t.students.forEach(({ id, sectionId }, s) => {
    for (const section of t.stays[id]?.map((stay) => stay.sectionId) ?? [sectionId])
      for (const a of bySection.get(section) ?? []) {
        const cell = s * cells.width + a
        if (there[cell] === NO_SCRIPT) there[cell] = SET_ONLY
      }
  })
}

function scriptsOf(t: TableLike): { cells: Cells; scripts: ScriptColumns; cellOf: Int32Array } {
  const { scripts } = t
  const width = t.assessments.length
  const count = t.students.length * width
  const columns: ScriptColumns = {
    there: new Uint8Array(count),
    status: new Uint8Array(count),
    daysLate: new Int32Array(count),
    entered: new Float64Array(count).fill(NaN),
  }
  const others = new Map<number, string>()
  const cellOf = new Int32Array(scripts.student.length)
  for (let i = 0; i < scripts.student.length; i++) {
    const [s, a] = [scripts.student[i]!, scripts.assessment[i]!]
    const cell = (cellOf[i] = s * width + a)
    columns.there[cell] = RECORDED
    columns.status[cell] = scripts.status[i]!
    columns.daysLate[cell] = scripts.daysLate[i]!
    columns.entered[cell] = scripts.entered[i] ?? NaN
    const id = scripts.id[i]
    if (id !== undefined && !isScriptIdOf(id, t.assessments[a]!.id, t.students[s]!.id)) others.set(cell, id)
  }
  const cells = new Cells(
    t.students.map((s) => s.id),
    t.assessments.map((a) => a.id),
    others,
  )
  addBlanks(columns.there, t, cells)
  return { cells, scripts: columns, cellOf }
}

/** All of a table but its scripts and readings. */
export type PlanOfTable = Omit<TableLike, 'scripts' | 'readings'>

type OfPlan = Pick<
  Workings,
  | 'course'
  | 'markerIds'
  | 'stays'
  | 'leftOut'
  | 'agreed'
  | 'agreedBy'
  | 'reopened'
  | 'agreeBy'
  | 'agreeing'
  | 'adjustments'
  | 'readingsWanted'
>

/** What of the workings follows from the plan, the roll and the decisions. A weight or worth never typed in carries nothing. */
function ofPlan(t: PlanOfTable, cells: Cells): OfPlan {
  return {
    course: {
      policy: t.policy,
      boundaries: t.boundaries,
      conditions: t.conditions ?? [],
      components: t.components.map(({ id, weight, combine, dropLowest, bonus }) => ({
        id,
        weight: weight ?? 0,
        combine,
        dropLowest,
        bonus,
      })),
      assessments: t.assessments.map(({ id, componentId, outOf, worth, counts, bonus, droppable }) => ({
        id,
        componentId,
        outOf,
        worth: worth ?? 0,
        counts,
        bonus,
        droppable,
      })),
      placements: t.placements.map(({ assessmentId, sectionId, due }) => ({ assessmentId, sectionId, due })),
      students: t.students.map(({ id, sectionId }) => ({ id, sectionId })),
    },
    markerIds: t.markers.map((m) => m.id),
    stays: t.stays,
    leftOut: t.leftOut,
    agreed: new Map(
      Object.entries(t.agreed).flatMap(([scriptId, mark]) => {
        const cell = cells.ofScript(scriptId)
        return cell < 0 ? [] : [[cell, mark]]
      }),
    ),
    agreedBy: new Map(
      Object.entries(t.agreedBy ?? {}).flatMap(([word, scriptIds]) => {
        const rule = ruleAgain(word)
        return rule ? scriptIds.map((id) => [cells.ofScript(id), rule] as const).filter(([cell]) => cell >= 0) : []
      }),
    ),
    reopened: new Set((t.reopened ?? []).map((scriptId) => cells.ofScript(scriptId)).filter((cell) => cell >= 0)),
    agreeBy: t.agreeBy ?? {},
    agreeing: Object.fromEntries(t.assessments.map((a) => [a.id, { tolerance: a.tolerance, step: a.step ?? null }])),
    adjustments: t.adjustments,
    readingsWanted: Object.fromEntries(t.assessments.map((a) => [a.id, a.readingsWanted])),
  }
}

/** The workings of a course that came as a table: its scripts, and a blank one for all that is set and has none. */
export function workingsOf(t: TableLike): Workings {
  const { cells, scripts, cellOf } = scriptsOf(t)
  return {
    ...ofPlan(t, cells),
    cells,
    scripts,
    readings: {
      cell: Int32Array.from(t.readings.script, (script) => cellOf[script]!),
      marker: Int32Array.from(t.readings.marker),
      mark: Float64Array.from(t.readings.mark),
    },
  }
}

/**
 * The same scripts and readings under another plan of the same students, assessments and markers.
 * @returns null where those are not the same, so that the scripts have to be fetched with it
 */
export function withPlan(w: Workings, t: PlanOfTable): Workings | null {
  const same = (ids: readonly string[], list: readonly { id: string }[]) =>
    ids.length === list.length && ids.every((id, i) => id === list[i]!.id)
  const { cells, scripts } = w
  if (!same(cells.studentIds, t.students) || !same(cells.assessmentIds, t.assessments) || !same(w.markerIds, t.markers)) return null
  const there = scripts.there.map((what) => (what === RECORDED ? RECORDED : NO_SCRIPT))
  addBlanks(there, t, cells)
  return { ...w, ...ofPlan(t, cells), scripts: { ...scripts, there } }
}

/** A script as it was written, with its readings in the order they were handed in. */
export interface WrittenScript {
  studentId: string
  assessmentId: string
  status: Status
  daysLate: number
  entered: number | null
  readings: readonly { markerId: string; mark: number }[]
  /** The agreed mark in force, null for none, and whether it was settled and opened again since; left out where they are as they were. */
  agreed?: number | null
  /** The word for its rule, where it can be agreed again. */
  agreedBy?: string | null
  reopened?: boolean
}

/**
 * The workings with some scripts as they stand now, and the cells that these are in.
 * @returns null where one names somebody who is not in them
 */
export function withScripts(w: Workings, written: readonly WrittenScript[]): { workings: Workings; cells: number[] } | null {
  if (written.length === 0) return { workings: w, cells: [] }
  const { cells } = w
  const scripts: ScriptColumns = {
    there: w.scripts.there.slice(),
    status: w.scripts.status.slice(),
    daysLate: w.scripts.daysLate.slice(),
    entered: w.scripts.entered.slice(),
  }
  const changed = new Set<number>()
  const anew: [cell: number, marker: number, mark: number][] = []
  for (const s of written) {
    const cell = cells.of(s.studentId, s.assessmentId)
    if (cell < 0) return null
    scripts.there[cell] = RECORDED
    scripts.status[cell] = STATUSES.indexOf(s.status)
    scripts.daysLate[cell] = s.daysLate
    scripts.entered[cell] = s.entered ?? NaN
    changed.add(cell)
    for (const r of s.readings) {
      const marker = w.markerIds.indexOf(r.markerId)
      if (marker < 0) return null
      anew.push([cell, marker, r.mark])
    }
  }
  const settled = settledSince(w, written)
  const { cell, marker, mark } = w.readings
  const touched = cell.some((c) => changed.has(c))
  if (!touched && anew.length === 0) return { workings: { ...w, scripts, ...settled }, cells: [...changed] }
  const stay: number[] = []
  cell.forEach((c, i) => {
    if (!changed.has(c)) stay.push(i)
  })
  const readings = {
    cell: Int32Array.from([...stay.map((i) => cell[i]!), ...anew.map((r) => r[0])]),
    marker: Int32Array.from([...stay.map((i) => marker[i]!), ...anew.map((r) => r[1])]),
    mark: Float64Array.from([...stay.map((i) => mark[i]!), ...anew.map((r) => r[2])]),
  }
  return { workings: { ...w, scripts, readings, ...settled }, cells: [...changed] }
}

/**
 * The workings with what was written since: scripts, and where something was decided the plan as it is now.
 * @returns null where more has changed than that, so that all of it has to be read anew
 */
export function workingsSince(
  w: Workings,
  { cells, plan }: { cells: readonly WrittenScript[]; plan: PlanOfTable | null },
): { workings: Workings; cells: number[] } | null {
  const under = plan ? withPlan(w, plan) : w
  return under && withScripts(under, cells)
}

/** What is settled and what is opened again after some scripts were written; the same as before where they change nothing of it. */
function settledSince(w: Workings, written: readonly WrittenScript[]): Pick<Workings, 'agreed' | 'agreedBy' | 'reopened'> {
  const other = written.filter((s) => {
    const cell = w.cells.of(s.studentId, s.assessmentId)
    return s.agreed !== undefined && ((w.agreed.get(cell) ?? null) !== s.agreed || w.reopened.has(cell) !== s.reopened)
  })
  if (other.length === 0) return { agreed: w.agreed, agreedBy: w.agreedBy, reopened: w.reopened }
  const agreed = new Map(w.agreed)
  const agreedBy = new Map(w.agreedBy)
  const reopened = new Set(w.reopened)
  for (const s of other) {
    const cell = w.cells.of(s.studentId, s.assessmentId)
    if (typeof s.agreed === 'number') agreed.set(cell, s.agreed)
    else agreed.delete(cell)
    const rule = s.agreedBy ? ruleAgain(s.agreedBy) : undefined
    if (rule) agreedBy.set(cell, rule)
    else agreedBy.delete(cell)
    if (s.reopened) reopened.add(cell)
    else reopened.delete(cell)
  }
  return { agreed, agreedBy, reopened }
}

/** What of the plan openItems needs beside the workings. */
export function planFacts(t: Pick<TableLike, 'components' | 'assessments'>): PlanFacts {
  return {
    weights: Object.fromEntries(t.components.map((c) => [c.id, c.weight])),
    worths: Object.fromEntries(t.assessments.map((a) => [a.id, a.worth])),
    tolerances: Object.fromEntries(t.assessments.map((a) => [a.id, a.tolerance])),
  }
}
