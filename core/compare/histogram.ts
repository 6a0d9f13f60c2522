import { bin, range } from 'd3-array'

export interface Bin {
  from: number
  to: number
  count: number
  /** Indices into the values, so that a bar can say who is in it. */
  members: number[]
}

export interface Histogram {
  bins: Bin[]
  /** Indices of values outside the range. */
  outside: number[]
}

/**
 * Counts values in bins closed on the left, the last one closed on both sides.
 * @throws RangeError when width is not positive or `to` is not above `from`
 */
export function histogram(values: readonly number[], { from, to, width }: { from: number; to: number; width: number }): Histogram {
  if (!(width > 0) || !(to > from)) throw new RangeError('a histogram needs a width above 0 and a range that rises')
  // 1e-9: a range of ten widths of 0.1 must not become eleven bins.
  const count = Math.max(1, Math.ceil((to - from) / width - 1e-9))
  const edges = range(1, count).map((i) => from + i * width)
  const binned = bin<number, number>()
    .value((i) => values[i]!)
    .domain([from, to])
    .thresholds(edges)(Array.from(values.keys()))
  const outside = [...values.keys()].filter((i) => !(values[i]! >= from && values[i]! <= to))
  return { bins: binned.map((b) => ({ from: b.x0!, to: b.x1!, count: b.length, members: [...b] })), outside }
}
