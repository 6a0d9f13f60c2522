import { markerEffects, type MarkerEffects } from './marker-effects'
import type { ReadingSet } from './reading-set'

/** Who leans where: the same model for each criterion on its own. @returns one for each criterion; null for one that nobody judged */
export function markerByCriterion(readings: ReadingSet & { criterion: ArrayLike<number>; criteria: number }): (MarkerEffects | null)[] {
  const { script, marker, mark, criterion, scripts, markers, criteria } = readings
  return Array.from({ length: criteria }, (_, k) => {
    const rows: number[] = []
    for (let r = 0; r < mark.length; r++) if (criterion[r] === k) rows.push(r)
    const of = (column: ArrayLike<number>) => Float64Array.from(rows, (r) => column[r]!)
    return markerEffects({ script: of(script), marker: of(marker), mark: of(mark), scripts, markers })
  })
}
