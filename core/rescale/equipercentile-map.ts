import { compare, minus, over, plus, rationalOf, times, toNumber, type Rational } from '../grades/rational'

/** Distinct values from low to high, with how often each stands. */
export type Frequencies = [value: number, count: number][]

export function frequenciesOf(values: readonly number[]): Frequencies {
  const counts = new Map<number, number>()
  for (const v of values) counts.set(v, (counts.get(v) ?? 0) + 1)
  return [...counts].sort((a, b) => a[0] - b[0])
}

type Ranked = { value: Rational; rank: Rational }[]

/** Mid-percentiles: (what lies below + half of what lies at it) / n. */
function midPercentiles(of: Frequencies): Ranked {
  const n = of.reduce((sum, [, count]) => sum + count, 0)
  let below = 0
  return of.map(([value, count]) => {
    const rank = over(rationalOf(2 * below + count), rationalOf(2 * n))
    below += count
    return { value: rationalOf(value), rank }
  })
}

/** Straight between places, constant outside. @param rows rising in `from` */
function between<K extends 'value' | 'rank'>(rows: Ranked, x: Rational, from: K, to: 'value' | 'rank'): Rational {
  const after = rows.findIndex((r) => compare(x, r[from]) <= 0)
  if (after === -1) return rows.at(-1)![to]
  const b = rows[after]!
  const a = rows[after - 1]
  if (!a) return b[to]
  return plus(a[to], times(minus(b[to], a[to]), over(minus(x, a[from]), minus(b[from], a[from]))))
}

/**
 * The equipercentile map as exact arithmetic has it: from a mark to the mark that as many lie below in the other sample.
 * @throws RangeError where a sample is empty
 */
export function exactEquipercentileMap(from: Frequencies, to: Frequencies): (x: Rational) => Rational {
  if (from.length === 0 || to.length === 0) throw new RangeError('Matching needs marks on both sides.')
  const [source, target] = [midPercentiles(from), midPercentiles(to)]
  return (x) => between(target, between(source, x, 'value', 'rank'), 'rank', 'value')
}

/**
 * x ↦ Q_to(F_from(x)): F interpolates the mid-percentiles of the one sample and is constant outside, Q is the inverse
 * interpolation of the other’s, clamped to its range.
 * @param from marks, on their scale
 * @param to marks of the group that is matched
 * @throws RangeError where a sample is empty
 * Source: after Kolen & Brennan, Test Equating, Scaling, and Linking, 3rd ed., 2014, ch. 2.
 */
export function equipercentileMap(from: readonly number[], to: readonly number[]): (mark: number) => number {
  const map = exactEquipercentileMap(frequenciesOf(from), frequenciesOf(to))
  return (mark) => toNumber(map(rationalOf(mark)))
}
