import { compare, minus, over, plus, rationalOf, type Rational } from '../../grades/rational'
import { AdjustmentError, figure, finite, type MarkMethod, onScale } from './method'

export interface TopTo {
  kind: 'topTo'
  /** What the highest mark becomes. */
  to: number
  /** The highest mark when it was tried, as a number or a fraction: later marks do not move the others. Without it the highest there is. */
  highest?: string
}

export const topTo: MarkMethod<TopTo> = {
  acts: 'marks',
  title: 'top to',
  says: 'The best is brought to a value, and everyone moves by as much.',
  assumes: 'That the best work is worth that much, and that all lost alike.',
  notWhen: 'One mark stands far above the rest: it alone would decide.',
  done: ({ to }) => `top brought to ${to}`,
  start: ({ outOf, marks }) => ({ kind: 'topTo', to: outOf, ...(marks.length > 0 && { highest: String(Math.max(...marks)) }) }),
  scaled: ({ kind, to }, by) => ({ kind, to: onScale(to, by) }),
  map: (method, marks) => topMap(method, method.highest === undefined ? highestOf(marks) : fractionOf(method.highest)),
  anew(method, { covered }) {
    const now = highestOf(covered)
    if (!now || (method.highest !== undefined && compare(now, fractionOf(method.highest)) === 0)) return null
    const best = covered.reduce((a, b) => Math.max(a, b))
    const by = method.to - best
    return {
      method: { ...method, highest: String(best) },
      words: `The best is now ${figure(best)}: it would be ${by < 0 ? '−' : '+'}${figure(Math.abs(by))}.`,
    }
  },
}

/** @param highest null where there is no mark: nothing moves */
export function topMap({ to }: TopTo, highest: Rational | null): (x: Rational) => Rational {
  const by = highest && minus(finite(to), highest)
  return (x) => (by ? plus(x, by) : x)
}

const highestOf = (marks: readonly number[]): Rational | null =>
  marks.length === 0 ? null : rationalOf(marks.reduce((a, b) => Math.max(a, b)))

const FRACTION = /^(-?\d+)\/([1-9]\d*)$/

function fractionOf(text: string): Rational {
  const fraction = FRACTION.exec(text)
  if (fraction) return over({ n: BigInt(fraction[1]!), d: 1n }, { n: BigInt(fraction[2]!), d: 1n })
  const number = text.trim() === '' ? NaN : Number(text)
  if (!Number.isFinite(number)) throw new AdjustmentError('The highest mark must be a number.')
  return rationalOf(number)
}
