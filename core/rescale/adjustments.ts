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
export const applyAdjustments = (marks: readonly AdjustableMark[], adjustments: readonly Adjustment[]): AdjustedMark[] =>
  throughStack(marks, adjustments).marks

/**
 * What a stack would make of any other mark, the others being what they are: a way that depends on the marks it covers is taken as it
 * stands for those.
 * @throws AdjustmentError as `applyAdjustments` does
 */
export function stackOver(
  marks: readonly AdjustableMark[],
  adjustments: readonly Adjustment[],
): (of: Pick<AdjustableMark, 'assessmentId' | 'sectionId'>, mark: number) => number {
  const { steps } = throughStack(marks, adjustments)
  return (of, mark) => steps.reduce((m, step) => (step.covers(of) ? step.change(m) : m), mark)
}

interface Step {
  covers: (of: Pick<AdjustableMark, 'assessmentId' | 'sectionId'>) => boolean
  change: (mark: number) => number
}

function throughStack(marks: readonly AdjustableMark[], adjustments: readonly Adjustment[]): { marks: AdjustedMark[]; steps: Step[] } {
  const result: AdjustedMark[] = marks.map((m) => ({ ...m, plain: m.mark, steps: [] }))
  const steps = adjustments.flatMap((adjustment): Step[] => {
    if (!adjustment.on) return []
    const sections = adjustment.sectionIds && new Set(adjustment.sectionIds)
    const covers: Step['covers'] = (m) => m.assessmentId === adjustment.assessmentId && (!sections || sections.has(m.sectionId))
    const covered = result.filter((m) => m.mark !== null && covers(m))
    const change = adjuster(
      adjustment,
      covered.map((m) => m.mark!),
    )
    for (const m of covered) {
      m.mark = change(m.mark!)
      m.steps.push({ adjustmentId: adjustment.id, mark: m.mark })
    }
    return [{ covers, change }]
  })
  return { marks: result, steps }
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
