import { describe } from '../compare/describe'
import { least, minus, most, over, plus, rationalOf, roundToStep, toNumber, ZERO } from '../grades/rational'

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
  /** The mean once each marker's lean is taken off, as it was estimated then; kept within 0..outOf. */
  | { kind: 'levelled'; leans: Record<string, number>; outOf: number }
  /** Criterion by criterion: what was agreed on each, and the mark that gives. */
  | { kind: 'criteria'; picks: Record<string, number>; mark: number; reason: string }

/** The readings cannot be settled that way; the message says what to do. */
export class AgreeError extends Error {
  override name = 'AgreeError'
}

/** Highest minus lowest reading, exactly on decimals; null under two readings. */
export function spreadOf(readings: readonly ReadingMark[]): number | null {
  if (readings.length < 2) return null
  const marks = readings.map((r) => r.mark)
  return apart(Math.min(...marks), Math.max(...marks))
}

/** How far a higher mark lies above a lower one, exactly on decimals. */
export function apart(low: number, high: number): number {
  const [from, to] = [Math.round(low * SCALE), Math.round(high * SCALE)]
  if (from / SCALE === low && to / SCALE === high) return (to - from) / SCALE
  return toNumber(minus(rationalOf(high), rationalOf(low)))
}

/** Most marks are whole numbers of thousandths, which doubles subtract exactly. */
const SCALE = 1000

/**
 * The one mark that stands for several readings of a script.
 * @param readings in the order they were handed in
 * @param step round half up to a multiple of it; null leaves the mark as it comes out
 * @throws AgreeError without readings, for a senior marker who has none, for an own value without a reason, or for a lean that is not known
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
    case 'levelled': {
      const levelled = readings.map((r) => minus(rationalOf(r.mark), rationalOf(leanOf(rule.leans, r.markerId))))
      const mean = over(levelled.reduce(plus, ZERO), rationalOf(marks.length))
      return least(most(mean, ZERO), rationalOf(rule.outOf))
    }
    case 'criteria':
      if (!Number.isFinite(rule.mark)) throw new AgreeError('Every criterion needs a level or points.')
      return rationalOf(rule.mark)
    case 'value':
      if (rule.reason.trim() === '') throw new AgreeError('A mark of your own needs a reason.')
      if (!Number.isFinite(rule.mark)) throw new AgreeError('The mark must be a number.')
      return rationalOf(rule.mark)
  }
}

function leanOf(leans: Record<string, number>, markerId: string): number {
  const lean = leans[markerId]
  if (lean === undefined) throw new AgreeError('How one of its markers leans cannot be told, so their readings cannot be levelled.')
  return lean
}

/** Whether a spread lies within the tolerance (at most as much, compared on decimals). */
export const withinTolerance = (spread: number, tolerance: number): boolean => spread <= tolerance + 1e-9
