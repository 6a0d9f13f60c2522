import { Distinct, resampledIntervals } from '../../compare/resampled'
import { roundest } from './roundest'
import { noLine, type SuggestedLine, type Way } from './way'

/** Lines under which grades are given in certain shares. */
export interface ByShares {
  way: 'shares'
  /** From the best grade down: the part of all graded students that should have each, 0..1; they sum to 1. */
  shares: readonly { grade: string; share: number }[]
}

type Interval = [above: number, upTo: number]

/**
 * Where lines have to lie so that the parts at or above them come nearest to what is wanted.
 * @param values different percents, the highest first; @param counts how many stand at each, n in all
 * @param wanted parts of all, rising
 */
function intervalsFor(values: readonly number[], counts: Int32Array, n: number, wanted: readonly number[]): Interval[] {
  // What can be told apart: nobody, or all from a value up.
  const best = wanted.map((part) => ({ aim: part * n, gap: part * n, at: -1, next: -1 }))
  let above = 0
  let last = -1
  for (let v = 0; v < values.length; v++) {
    if (counts[v] === 0) continue
    // The value below the line that was best so far is the first one that anybody stands at.
    for (const b of best) if (b.next === -1 && b.at === last) b.next = v
    above += counts[v]!
    for (const b of best) {
      const gap = Math.abs(above - b.aim)
      if (gap < b.gap) Object.assign(b, { gap, at: v, next: -1 })
    }
    last = v
  }
  return best.map(({ at, next }) => [next < 0 ? 0 : values[next]!, at < 0 ? Math.max(100, values[0]!) : values[at]!])
}

export const byShares: Way<ByShares> = {
  suggest({ students }, { shares }, draws) {
    const percents = students.flatMap((s) => s.rounded ?? []).sort((a, b) => b - a)
    const n = percents.length
    const asked = shares.slice(0, -1)
    if (n === 0) return asked.map(({ grade }) => noLine(grade, 0, 'Nobody has a final percent yet.'))
    let sum = 0
    const wanted = asked.map(({ share }) => (sum += share))
    const distinct = new Distinct(percents)
    const intervals = intervalsFor(distinct.values, distinct.counts, n, wanted)
    const bands = resampledIntervals(
      n,
      asked.length,
      (drawn) => intervalsFor(distinct.values, distinct.drawn(drawn), n, wanted).map(([a, b]) => (a + b) / 2),
      draws,
    )
    let before = Infinity
    return asked.map(({ grade }, i): SuggestedLine => {
      const same = intervals[i]!
      const [above, upTo] = same
      const top = before > upTo ? upTo : Number((before - 0.001).toFixed(3))
      const from = top > above ? roundest(above, top) : null
      if (from === null || from <= 0) return noLine(grade, n, 'Those who should have it stand where those of the grade above do.')
      before = from
      return { grade, from, why: null, same, band: bands[i]!, n, curve: null }
    })
  },
}
