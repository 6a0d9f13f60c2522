import { orNull } from '../grades/grade-table'
import { agreeMark, type AgreeRule, type ReadingMark } from '../agree/agree-mark'
import { least, most, rationalOf, roundToStep, toNumber, ZERO, type Rational } from '../grades/rational'
import {
  actsOnMarks,
  actsOnReadings,
  mapOf,
  readingMethodOf,
  type AdjustmentMethod,
  type MarkKind,
  type OfKind,
  type ReadingKind,
} from './methods'

export interface Adjustment {
  id: string
  /** Null for the course percent itself. */
  assessmentId: string | null
  /** What the assessment is marked out of: the range to keep within; 100 for the course percent. */
  outOf: number
  /** The sections it covers, of each student the one they were in on the day it was sat; null for all. */
  sectionIds: string[] | null
  method: AdjustmentMethod
  /** Switched off ones stay in the stack and do nothing. */
  on: boolean
  neverLower: boolean
  /** Keep within 0..outOf, or let a mark rise above. Marks below 0 that were there (deductions) stay. */
  above: 'keep within' | 'allow'
  /** Round half up to a multiple of it; null leaves it as it comes out. */
  step: number | null
}

/** The readings behind a mark, and how they became one. */
export interface Read {
  scriptId: string
  readings: readonly ReadingMark[]
  /** Null for a mark that a person gave in their own right: it stays, whatever its readings are taken for. */
  rule: AgreeRule | null
  step: number | null
}

export interface AdjustableMark {
  studentId: string
  assessmentId: string
  sectionId: string
  mark: number | null
  /** Left out for a mark without readings. */
  read?: Read
}

export type AdjustedMark = AdjustableMark & {
  /** The mark before any adjustment. */
  plain: number | null
  /** What each adjustment made of it, in order. */
  steps: { adjustmentId: string; mark: number }[]
}

type Where = Pick<AdjustableMark, 'assessmentId' | 'sectionId'>

/**
 * Runs marks through an ordered stack of adjustments. The original stays beside the result, blanks stay
 * blank, and the arithmetic is exact, so that a step or a boundary is met where it should be. Those that act on readings come first,
 * whatever their place: readings are agreed before marks are rescaled.
 * @throws AdjustmentError for a line without width or a curve that does not rise
 */
export function applyAdjustments(marks: readonly AdjustableMark[], adjustments: readonly Adjustment[]): AdjustedMark[] {
  const steps = marks.map((): AdjustedMark['steps'] => [])
  const { after } = throughStack(marks, adjustments, (at, adjustmentId, mark) => steps[at]!.push({ adjustmentId, mark }))
  return marks.map((m, at) => ({ ...m, plain: m.mark, mark: orNull(after[at]!), steps: steps[at]! }))
}

/**
 * The marks alone, in the same order; NaN for a blank.
 * @throws AdjustmentError as `applyAdjustments` does
 */
export const adjustedMarks = (marks: readonly AdjustableMark[], adjustments: readonly Adjustment[]): Float64Array =>
  throughStack(marks, adjustments).after

/**
 * What a stack would make of any other mark, the others being what they are: a way that depends on the marks it covers is taken as it
 * stands for those.
 * @throws AdjustmentError as `applyAdjustments` does
 */
export function stackOver(
  marks: readonly AdjustableMark[],
  adjustments: readonly Adjustment[],
): (of: Where & { studentId: string }, mark: number) => number {
  const { steps, read } = throughStack(marks, adjustments)
  const readAs = new Map<string, number>()
  if (read) marks.forEach((m, at) => m.mark !== null && m.mark !== read[at] && readAs.set(m.studentId, read[at]! - m.mark))
  return (of, mark) => steps.reduce((m, step) => (step.covers(of) ? step.change(m) : m), mark + (readAs.get(of.studentId) ?? 0))
}

interface Step {
  covers: (of: Where) => boolean
  change: (mark: number) => number
}

/** Told what an adjustment made of the mark at a place. */
type Hears = (at: number, adjustmentId: string, mark: number) => void
const NOBODY: Hears = () => undefined

/**
 * Thousands of marks go through at every pull of a point, so they go as a column.
 * @returns the marks after all of it; and after readings were taken otherwise, where any are
 */
function throughStack(
  marks: readonly AdjustableMark[],
  adjustments: readonly Adjustment[],
  hears = NOBODY,
): { after: Float64Array; read: Float64Array | null; steps: Step[] } {
  const after = Float64Array.from(marks, (m) => m.mark ?? NaN)
  const on = adjustments.filter((a) => a.on && a.assessmentId !== null)
  const read = reread(marks, after, on, hears) ? after.slice() : null
  const steps = on.flatMap((adjustment): Step[] => {
    const { id, method } = adjustment
    if (!actsOnMarks(method)) return []
    const covers = coversOf(adjustment)
    const covered: number[] = []
    marks.forEach((m, at) => m.mark !== null && covers(m) && covered.push(at))
    const change = adjuster(
      { ...adjustment, method },
      covered.map((at) => after[at]!),
    )
    for (const at of covered) {
      after[at] = change(after[at]!)
      hears(at, id, after[at]!)
    }
    return [{ covers, change }]
  })
  return { after, read, steps }
}

function coversOf({ assessmentId, sectionIds }: Adjustment): Step['covers'] {
  const sections = sectionIds && new Set(sectionIds)
  return (m) => m.assessmentId === assessmentId && (!sections || sections.has(m.sectionId))
}

/** Another count of criteria is taken first: it says what a reading comes to, and a lean is taken off that. */
const readingsFirst = (a: Adjustment) => (a.method.kind === 'markerEffect' ? 1 : 0)

/** Takes readings for what the adjustments of readings make of them, and agrees them again. @returns whether there are any */
function reread(marks: readonly AdjustableMark[], now: Float64Array, adjustments: readonly Adjustment[], hears: Hears): boolean {
  const onReadings = adjustments.filter((a) => actsOnReadings(a.method)).sort((a, b) => readingsFirst(a) - readingsFirst(b))
  if (onReadings.length === 0) return false
  const reads = marks.map((m) => m.read)
  for (const a of onReadings) {
    const map = readingMethodOf((a.method as OfKind<ReadingKind>).kind).reading(a.method)
    const covers = coversOf(a)
    const within = a.above === 'keep within' ? rationalOf(a.outOf) : null
    const taken = (of: { scriptId: string; markerId: string | null }, mark: number): number | null => {
      const before = rationalOf(mark)
      const after = map(of, before)
      return after && toNumber(within ? kept(after, before, within) : after)
    }
    marks.forEach((m, at) => {
      const read = reads[at]
      if (m.mark === null || !read || !covers(m)) return
      const { scriptId, rule, step } = read
      // What was levelled is without the lean already.
      if (rule?.kind === 'levelled' && a.method.kind === 'markerEffect') return
      let after: number | null = null
      if (rule === null) after = taken({ scriptId, markerId: null }, now[at]!)
      else {
        let changed = false
        const readings = read.readings.map((r) => {
          const mark = taken({ scriptId, markerId: r.markerId }, r.mark)
          changed ||= mark !== null && mark !== r.mark
          return mark === null ? r : { ...r, mark }
        })
        if (!changed) return
        reads[at] = { ...read, readings }
        after = agreeMark(readings, rule, step).mark
      }
      if (after === null) return
      if (a.step !== null) after = toNumber(roundToStep(rationalOf(after), rationalOf(a.step)))
      now[at] = a.neverLower ? Math.max(now[at]!, after) : after
      hears(at, a.id, now[at]!)
    })
  }
  return true
}

/** Within 0..top; what was outside before may stay where it was. */
const kept = (after: Rational, before: Rational, top: Rational): Rational => least(most(top, before), most(after, least(ZERO, before)))

/**
 * One adjustment of marks as a function of a mark, with its options.
 * @param marks the marks it covers, for a way that was not fixed by them
 */
export function adjuster(
  a: Omit<Adjustment, 'id' | 'sectionIds' | 'on' | 'assessmentId' | 'method'> & { method: OfKind<MarkKind> },
  marks: readonly number[],
): (mark: number) => number {
  const map = mapOf(a.method, marks)
  const top = rationalOf(a.outOf)
  const step = a.step === null ? null : rationalOf(a.step)
  const change = (mark: number) => {
    const before = rationalOf(mark)
    let after = map(before)
    if (step) after = roundToStep(after, step)
    if (a.above === 'keep within') after = kept(after, before, top)
    if (a.neverLower) after = most(before, after)
    return toNumber(after)
  }
  // Exact arithmetic is slow, and of thousands of marks few are different.
  const known = new Map<number, number>()
  return (mark) => {
    const before = known.get(mark)
    if (before !== undefined) return before
    const after = change(mark)
    known.set(mark, after)
    return after
  }
}
