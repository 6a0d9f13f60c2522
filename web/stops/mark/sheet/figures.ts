import type { SheetByCell } from '#contract'
import type { Cells } from './cells'

export interface ColumnFigures {
  mean: number | null
  marked: number
  of: number
  /** Of those that are marked; null where it has no pass mark. */
  passed: number | null
}

/**
 * Average and counts of a column over the rows shown, of marks as they count where that is said; what is missing, absent, exempt or held is in none of them.
 */
export function columnFigures(
  rows: SheetByCell['students'],
  cells: Cells,
  column: number,
  passMark: number | null,
  countsAs?: ReadonlyMap<string, number>,
): ColumnFigures {
  let [sum, marked, of, passed] = [0, 0, 0, 0]
  for (const { id } of rows) {
    const s = cells.placeOf(id)
    if (!cells.isSet(s, column)) continue
    const status = cells.status(s, column)
    if (status !== 'in' && status !== 'late') continue
    of++
    const mark = cells.mark(s, column)
    if (mark === null) continue
    const counted = countsAs?.get(id) ?? mark
    sum += counted
    marked++
    if (passMark !== null && counted >= passMark) passed++
  }
  return { mean: marked > 0 ? sum / marked : null, marked, of, passed: passMark === null ? null : passed }
}
