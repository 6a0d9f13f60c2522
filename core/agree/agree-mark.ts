import { describe } from '../compare/describe'
import { minus, over, plus, rationalOf, roundToStep, toNumber, ZERO } from '../grades/rational'

export interface ReadingMark {
  markerId: string
  /** On the assessment's scale. */
  mark: number
}

export type AgreeRule =
  | { kind: 'mean' }
  | { kind: 'median' }
  | { kind: 'highest' }
  | { kind: 'lowest' }
  | { kind: 'first' }
  | { kind: 'senior'; markerId: string }
  | { kind: 'value'; mark: number; reason: string }

/** The readings cannot be settled that way; the message says what to do. */
export class AgreeError extends Error {
  override name = 'AgreeError'
}

/** Highest minus lowest reading, exactly on decimals; null under two readings. */
export function spreadOf(readings: readonly ReadingMark[]): number | null {
  if (readings.length < 2) return null
  const marks = readings.map((r) => r.mark)
  return toNumber(minus(rationalOf(Math.max(...marks)), rationalOf(Math.min(...marks))))
}

/**
 * The one mark that stands for several readings of a script.
 * @param readings in the order they were handed in
 * @param step round half up to a multiple of it; null leaves the mark as it comes out
 * @throws AgreeError without readings, for a senior marker who has none, or for an own value without a reason
 */
export function agreeMark(
  readings: readonly ReadingMark[],
  rule: AgreeRule,
  step: number | null = null,
): { mark: number; spread: number | null } {
  if (readings.length === 0) throw new AgreeError('There is no reading to agree on.')
  const exact = ruled(readings, rule)
  return { mark: toNumber(step === null ? exact : roundToStep(exact, rationalOf(step))), spread: spreadOf(readings) }
}

function ruled(readings: readonly ReadingMark[], rule: AgreeRule) {
  const marks = readings.map((r) => r.mark)
  switch (rule.kind) {
    case 'mean':
      return over(marks.map(rationalOf).reduce(plus, ZERO), rationalOf(marks.length))
    case 'median':
      return rationalOf(describe(marks).median!)
    case 'highest':
      return rationalOf(Math.max(...marks))
    case 'lowest':
      return rationalOf(Math.min(...marks))
    case 'first':
      return rationalOf(marks[0]!)
    case 'senior': {
      const own = readings.find((r) => r.markerId === rule.markerId)
      if (!own) throw new AgreeError('That marker has not read this script.')
      return rationalOf(own.mark)
    }
    case 'value':
      if (rule.reason.trim() === '') throw new AgreeError('A mark of your own needs a reason.')
      if (!Number.isFinite(rule.mark)) throw new AgreeError('The mark must be a number.')
      return rationalOf(rule.mark)
  }
}

/** Whether a spread lies within the tolerance (at most as much, compared on decimals). */
export const withinTolerance = (spread: number, tolerance: number): boolean => spread <= tolerance + 1e-9
