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
  const edge = (i: number) => (i === count ? to : from + i * width)
  const bins: Bin[] = Array.from({ length: count }, (_, i) => ({ from: edge(i), to: edge(i + 1), count: 0, members: [] }))
  const outside: number[] = []
  values.forEach((x, i) => {
    if (!(x >= from && x <= to)) return outside.push(i)
    let at = Math.min(count - 1, Math.floor((x - from) / width))
    // The division may miss an edge by its last digit; the edges themselves decide.
    if (x < bins[at]!.from) at--
    else if (at < count - 1 && x >= bins[at + 1]!.from) at++
    bins[at]!.members.push(i)
    return bins[at]!.count++
  })
  return { bins, outside }
}
