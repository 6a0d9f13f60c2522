import type { MarkerEffects } from './marker-effects'
import type { ReadingSet } from './reading-set'

export interface MarkerFit {
  n: number
  /** How far their readings lie from what script, marker and criterion would give; sd, in marks. Null with fewer than two. */
  sd: number | null
  /** Its square against that of all: well above 1 is erratic, which no rescaling mends. Null where nothing is left over. */
  ratio: number | null
}

/** Who marks unlike themselves: what is left of each marker's readings once what script and marker would give is taken off. */
export function markerFit(readings: ReadingSet, { means, criteria, scriptEffects }: MarkerEffects): MarkerFit[] {
  const { script, marker, mark, criterion, markers } = readings
  const n = new Int32Array(markers)
  const squares = new Float64Array(markers)
  for (let r = 0; r < mark.length; r++) {
    const m = marker[r]!
    const given = means[m]! + scriptEffects[script[r]!]! + (criterion ? criteria[criterion[r]!]! : 0)
    n[m]!++
    squares[m]! += (mark[r]! - given) ** 2
  }
  const all = squares.reduce((s, x) => s + x, 0) / Math.max(1, mark.length)
  return Array.from(n, (count, m) => {
    const variance = count > 1 ? squares[m]! / (count - 1) : null
    return {
      n: count,
      sd: variance === null ? null : Math.sqrt(variance),
      ratio: count > 1 && all > 1e-12 ? squares[m]! / count / all : null,
    }
  })
}
