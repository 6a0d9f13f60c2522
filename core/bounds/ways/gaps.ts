import { Distinct, resampledInterval } from '../../compare/resampled'
import { descending } from '../../grades/rounding'
import { roundest } from './roundest'
import { noLine, type Way } from './way'

/** Lines in the widest gap between two students near where they are. */
export interface ByGaps {
  way: 'gaps'
  /** Percent on either side of each line in which to look. */
  zone: number
}

/** The widest gap between percents next to each other; of two as wide the one nearest `from`. */
function widest(ascending: readonly number[], counts: Int32Array, from: number): [above: number, upTo: number] | null {
  let best: [number, number] | null = null
  let last = -1
  const off = ([a, b]: [number, number]) => Math.abs((a + b) / 2 - from)
  for (let i = 0; i < ascending.length; i++) {
    if (counts[i] === 0) continue
    if (last >= 0) {
      const gap: [number, number] = [ascending[last]!, ascending[i]!]
      const more = best ? gap[1] - gap[0] - (best[1] - best[0]) : 1
      if (more > 1e-9 || (best && more > -1e-9 && off(gap) < off(best))) best = gap
    }
    last = i
  }
  return best
}

export const byGaps: Way<ByGaps> = {
  suggest({ students, boundaries }, { zone }, draws) {
    const percents = students.flatMap((s) => s.rounded ?? []).sort((a, b) => a - b)
    return descending(boundaries)
      .slice(0, -1)
      .map(({ grade, from }) => {
        const near = percents.filter((p) => Math.abs(p - from) <= zone)
        const distinct = new Distinct(near)
        const gap = widest(distinct.values, distinct.counts, from)
        const at = gap && roundest(...gap)
        if (at === null) return noLine(grade, near.length, `Fewer than two different percents lie within ${zone} of ${from}.`)
        const band = resampledInterval(
          near.length,
          (drawn) => {
            const found = widest(distinct.values, distinct.drawn(drawn), from)
            return found && (found[0] + found[1]) / 2
          },
          draws,
        )
        return { grade, from: at, why: null, same: gap, band, n: near.length, curve: null }
      })
  },
}
