import type { SheetInColumns } from '#contract'
import type { Cells } from './cells'

export interface ColumnFigures {
  mean: number | null
  marked: number
  of: number
}

/** Average and counts of each column over the rows shown; what is missing, absent, exempt or held is in none of them. */
export function columnFigures(rows: SheetInColumns['students'], cells: Cells): ColumnFigures[] {
  const places = rows.map((s) => cells.placeOf(s.id))
  return Array.from({ length: cells.width }, (_, a) => {
    let [sum, marked, of] = [0, 0, 0]
    for (const s of places) {
      if (!cells.isSet(s, a)) continue
      const status = cells.status(s, a)
      if (status !== 'in' && status !== 'late') continue
      of++
      const mark = cells.mark(s, a)
      if (mark === null) continue
      sum += mark
      marked++
    }
    return { mean: marked > 0 ? sum / marked : null, marked, of }
  })
}
