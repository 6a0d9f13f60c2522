import { drawnInOrder, resampledInterval } from '../../compare/resampled'
import { roundest } from './roundest'
import { noLine, type SuggestedLine, type Way } from './way'

/** Lines under which grades are given in certain shares. */
export interface ByShares {
  way: 'shares'
  /** From the best grade down: the part of all graded students that should have each, 0..1; they sum to 1. */
  shares: readonly { grade: string; share: number }[]
}

/** Where a line has to lie so that the part at or above it comes nearest to what is wanted. */
function intervalFor(descending: readonly number[], wanted: number): [above: number, upTo: number] {
  const n = descending.length
  const aim = wanted * n
  // What can be told apart: nobody, or all from a value up.
  let best = { gap: aim, at: -1 }
  for (let i = 0; i < n; i++) {
    if (descending[i + 1] === descending[i]) continue
    const gap = Math.abs(i + 1 - aim)
    if (gap < best.gap) best = { gap, at: i }
  }
  return [descending[best.at + 1] ?? 0, descending[best.at] ?? Math.max(100, descending[0]!)]
}

export const byShares: Way<ByShares> = {
  suggest({ students }, { shares }, draws) {
    const percents = students.flatMap((s) => s.rounded ?? []).sort((a, b) => b - a)
    const n = percents.length
    const lines: SuggestedLine[] = []
    let wanted = 0
    let before = Infinity
    for (const { grade, share } of shares.slice(0, -1)) {
      wanted += share
      if (n === 0) {
        lines.push(noLine(grade, 0, 'Nobody has a final percent yet.'))
        continue
      }
      const [above, upTo] = intervalFor(percents, wanted)
      const top = before > upTo ? upTo : Number((before - 0.001).toFixed(3))
      const from = top > above ? roundest(above, top) : null
      if (from === null || from <= 0) {
        lines.push(noLine(grade, n, 'Those who should have it stand where those of the grade above do.'))
        continue
      }
      before = from
      const part = wanted
      const band = resampledInterval(
        n,
        (drawn) => {
          const [a, b] = intervalFor(drawnInOrder(percents, drawn), part)
          return (a + b) / 2
        },
        draws,
      )
      lines.push({ grade, from, why: null, same: [above, upTo], band, n, curve: null })
    }
    return lines
  },
}
