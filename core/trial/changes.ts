import { agreeMark, type AgreeRule } from '../agree/agree-mark'
import type { Assessment, Boundary, Component, Policy } from '../grades/course'
import type { Adjustment } from '../rescale/adjustments'
import type { Picks } from '../scales/rubric'
import type { Workings } from './workings'

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
  const agreed = { ...w.agreed }
  const leftOut = new Map(Object.entries(w.leftOut).map(([id, students]) => [id, new Set(students)]))
  let { adjustments, readings } = w
  let { components, assessments, boundaries, policy } = w.course
  for (const c of changes) {
    switch (c.kind) {
      case 'settle':
        agreed[c.scriptId] = c.mark
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
      case 'exclude': {
        const out = leftOut.get(c.assessmentId) ?? new Set()
        if (c.out) out.add(c.studentId)
        else out.delete(c.studentId)
        leftOut.set(c.assessmentId, out)
        break
      }
      case 'policy':
        policy = c.policy
        break
      case 'carry':
        readings = carriedInto(readings, c.readings)
        break
    }
  }
  return {
    ...w,
    agreed,
    readings,
    adjustments,
    leftOut: Object.fromEntries([...leftOut].flatMap(([id, out]) => (out.size > 0 ? [[id, [...out]]] : []))),
    course: { ...w.course, components, assessments, boundaries, policy },
  }
}

function carriedInto(readings: Workings['readings'], carried: readonly CarriedReading[]): Workings['readings'] {
  const marks = new Map(carried.map((r) => [`${r.scriptId} ${r.markerId}`, r.mark]))
  return readings.map((r) => {
    const mark = marks.get(`${r.scriptId} ${r.markerId}`)
    return mark === undefined ? r : { ...r, mark }
  })
}

/**
 * Changes that settle scripts by one rule.
 * @throws AgreeError where a script has no reading or the rule does not fit its readings
 */
export function settleBy(w: Pick<Workings, 'readings'>, scriptIds: readonly string[], rule: AgreeRule, step: number | null): Change[] {
  const wanted = new Map(scriptIds.map((id) => [id, [] as Workings['readings']]))
  for (const r of w.readings) wanted.get(r.scriptId)?.push(r)
  return scriptIds.map((scriptId) => ({ kind: 'settle', scriptId, rule, step, mark: agreeMark(wanted.get(scriptId)!, rule, step).mark }))
}
