import { least, most, rationalOf, roundToStep, toNumber, ZERO } from '../grades/rational'
import { mapOf, type AdjustmentMethod } from './methods'

export interface Adjustment {
  id: string
  assessmentId: string
  /** What the assessment is marked out of: the range to keep within. */
  outOf: number
  /** The sections it covers; null for all. */
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

export interface AdjustableMark {
  studentId: string
  assessmentId: string
  sectionId: string
  mark: number | null
}

export type AdjustedMark = AdjustableMark & {
  /** The mark before any adjustment. */
  plain: number | null
  /** What each adjustment made of it, in order. */
  steps: { adjustmentId: string; mark: number }[]
}

/**
 * Runs marks through an ordered stack of adjustments. The original stays beside the result, blanks stay
 * blank, and the arithmetic is exact, so that a step or a boundary is met where it should be.
 * @throws AdjustmentError for a line without width or a curve that does not rise
 */
export function applyAdjustments(marks: readonly AdjustableMark[], adjustments: readonly Adjustment[]): AdjustedMark[] {
  const result: AdjustedMark[] = marks.map((m) => ({ ...m, plain: m.mark, steps: [] }))
  for (const adjustment of adjustments) {
    if (!adjustment.on) continue
    const sections = adjustment.sectionIds && new Set(adjustment.sectionIds)
    const covered = result.filter(
      (m) => m.mark !== null && m.assessmentId === adjustment.assessmentId && (!sections || sections.has(m.sectionId)),
    )
    const change = adjuster(
      adjustment,
      covered.map((m) => m.mark!),
    )
    for (const m of covered) {
      m.mark = change(m.mark!)
      m.steps.push({ adjustmentId: adjustment.id, mark: m.mark })
    }
  }
  return result
}

/**
 * One adjustment as a function of a mark, with its options.
 * @param marks the marks it covers, which `topTo` needs
 */
export function adjuster(
  a: Omit<Adjustment, 'id' | 'sectionIds' | 'on' | 'assessmentId'>,
  marks: readonly number[],
): (mark: number) => number {
  const map = mapOf(a.method, marks)
  const top = rationalOf(a.outOf)
  const step = a.step === null ? null : rationalOf(a.step)
  const change = (mark: number) => {
    const before = rationalOf(mark)
    let after = map(before)
    if (step) after = roundToStep(after, step)
    if (a.above === 'keep within') after = least(most(top, before), most(after, least(ZERO, before)))
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
