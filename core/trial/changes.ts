import { agreeMark, type AgreeRule } from '../agree/agree-mark'
import type { Assessment, Boundary, Component, Policy } from '../grades/course'
import type { Adjustment } from '../rescale/adjustments'
import type { Picks } from '../scales/rubric'
import { readingPlaces, readingsOf, type HandedInReading, type ReadingColumns, type Workings } from './workings'

/** What a trial may try and a decision may decide, one small step each. */
export type Change =
  | { kind: 'settle'; scriptId: string; rule: AgreeRule; step: number | null; mark: number }
  | { kind: 'adjust'; adjustment: Adjustment }
  | { kind: 'switch'; adjustmentId: string; on: boolean }
  | { kind: 'bound'; boundaries: Boundary[] }
  | { kind: 'weigh'; componentId: string; weight: number }
  | { kind: 'shape'; componentId: string; patch: Partial<Pick<Component, 'combine' | 'dropLowest' | 'bonus'>> }
  | {
      kind: 'assess'
      assessmentId: string
      patch: Partial<Pick<Assessment, 'worth' | 'counts' | 'bonus' | 'droppable' | 'componentId'>>
    }
  /** Takes an assessment out of the plan with all that hangs on it; its marks stay in the record. */
  | { kind: 'take away'; assessmentId: string }
  /** Leaves one student out of an assessment, or back in. */
  | { kind: 'exclude'; assessmentId: string; studentId: string; out: boolean }
  | { kind: 'policy'; policy: Policy }
  /** Readings carried over to another version of their rubric. */
  | { kind: 'carry'; assessmentId: string; standardId: string; readings: CarriedReading[] }

export interface CarriedReading {
  scriptId: string
  markerId: string
  /** Version of the reading that was carried over; a later one stands as it was made. */
  version: number
  picks: Picks
  mark: number
}

/** What a change is about: a later change to the same thing takes its place in a trial. */
export function changeTarget(c: Change): string {
  switch (c.kind) {
    case 'settle':
      return `settle ${c.scriptId}`
    case 'adjust':
      return `adjust ${c.adjustment.id}`
    case 'switch':
      return `switch ${c.adjustmentId}`
    case 'bound':
      return 'bound'
    case 'weigh':
      return `weigh ${c.componentId}`
    case 'shape':
      return `shape ${c.componentId}`
    case 'assess':
      return `assess ${c.assessmentId}`
    case 'take away':
      return `take away ${c.assessmentId}`
    case 'exclude':
      return `exclude ${c.assessmentId} ${c.studentId}`
    case 'policy':
      return 'policy'
    case 'carry':
      return `carry ${c.assessmentId}`
  }
}

/** Adds changes to a trial; each takes the place of an earlier one to the same thing. */
export function addChanges(trial: readonly Change[], added: readonly Change[]): Change[] {
  const byTarget = new Map(trial.map((c) => [changeTarget(c), c]))
  for (const c of added) {
    const earlier = byTarget.get(changeTarget(c))
    byTarget.set(changeTarget(c), merged(earlier, c))
  }
  return [...byTarget.values()]
}

/** A later change to the same thing; what a patch does not mention stays as the earlier one had it. */
function merged(earlier: Change | undefined, c: Change): Change {
  if (c.kind === 'assess' && earlier?.kind === 'assess') return { ...c, patch: { ...earlier.patch, ...c.patch } }
  if (c.kind === 'shape' && earlier?.kind === 'shape') return { ...c, patch: { ...earlier.patch, ...c.patch } }
  return c
}

/** The workings with changes in force. Changes to what is not there (any more) do nothing. */
export function applyChanges(w: Workings, changes: readonly Change[]): Workings {
  if (changes.length === 0) return w
  let { adjustments, readings, leftOut } = w
  const agreed = changes.some((c) => c.kind === 'settle') ? new Map(w.agreed) : w.agreed
  let { components, assessments, boundaries, policy } = w.course
  for (const c of changes) {
    switch (c.kind) {
      case 'settle':
        settle(agreed as Map<number, number>, w.cells.ofScript(c.scriptId), c.mark)
        break
      case 'adjust':
        adjustments = adjustments.some((a) => a.id === c.adjustment.id)
          ? adjustments.map((a) => (a.id === c.adjustment.id ? c.adjustment : a))
          : [...adjustments, c.adjustment]
        break
      case 'switch':
        adjustments = adjustments.map((a) => (a.id === c.adjustmentId ? { ...a, on: c.on } : a))
        break
      case 'bound':
        boundaries = c.boundaries
        break
      case 'weigh':
        components = components.map((x) => (x.id === c.componentId ? { ...x, weight: c.weight } : x))
        break
      case 'shape':
        components = components.map((x) => (x.id === c.componentId ? { ...x, ...c.patch } : x))
        break
      case 'assess':
        assessments = assessments.map((x) => (x.id === c.assessmentId ? { ...x, ...c.patch } : x))
        break
      case 'take away':
        assessments = assessments.map((x) => (x.id === c.assessmentId ? { ...x, counts: false } : x))
        break
      case 'exclude':
        leftOut = withLeftOut(leftOut, c)
        break
      case 'policy':
        policy = c.policy
        break
      case 'carry':
        readings = carriedInto({ ...w, readings }, c.readings)
        break
      default:
        // The compiler says which kind is forgotten.
        c satisfies never
    }
  }
  return {
    ...w,
    agreed,
    readings,
    adjustments,
    leftOut,
    course: { ...w.course, components, assessments, boundaries, policy },
  }
}

function settle(agreed: Map<number, number>, cell: number, mark: number): void {
  if (cell >= 0) agreed.set(cell, mark)
}

function withLeftOut(
  leftOut: Workings['leftOut'],
  { assessmentId, studentId, out }: Extract<Change, { kind: 'exclude' }>,
): Workings['leftOut'] {
  const { [assessmentId]: were = [], ...others } = leftOut
  const left = were.filter((id) => id !== studentId)
  if (out) left.push(studentId)
  return left.length > 0 ? { ...others, [assessmentId]: left } : others
}

function carriedInto(w: Pick<Workings, 'cells' | 'readings' | 'markerIds'>, carried: readonly CarriedReading[]): ReadingColumns {
  const markerAt = new Map(w.markerIds.map((id, i) => [id, i]))
  const mark = w.readings.mark.slice()
  const { from, at } = readingPlaces(w)
  for (const r of carried) {
    const cell = w.cells.ofScript(r.scriptId)
    if (cell < 0) continue
    for (let i = from[cell]!; i < from[cell + 1]!; i++) if (w.readings.marker[at[i]!] === markerAt.get(r.markerId)) mark[at[i]!] = r.mark
  }
  return { ...w.readings, mark }
}

/**
 * Changes that settle scripts by one rule.
 * @param scripts each with its readings, in the order they were handed in
 * @throws AgreeError where a script has no reading or the rule does not fit its readings
 */
export function settleReadings(
  scripts: readonly { scriptId: string; readings: readonly HandedInReading[] }[],
  rule: AgreeRule,
  step: number | null,
): Change[] {
  return scripts.map(({ scriptId, readings }) => ({ kind: 'settle', scriptId, rule, step, mark: agreeMark(readings, rule, step).mark }))
}

/** Changes that settle the scripts in some cells by one rule. @throws AgreeError as `settleReadings` does */
export const settleBy = (
  w: Pick<Workings, 'cells' | 'readings' | 'markerIds'>,
  cells: readonly number[],
  rule: AgreeRule,
  step: number | null,
): Change[] =>
  settleReadings(
    cells.map((cell) => ({ scriptId: w.cells.scriptId(cell), readings: readingsOf(w, cell) })),
    rule,
    step,
  )
