import type { ReactNode } from 'react'
import { writeCellText } from '#core/exchange/cell-text'
import type { Cell } from '#contract'
import { numeral } from '../../../parts/format'
import type { CellValue } from '#core/marking'
import styles from './sheet.module.css'

/** As it was marked, by readings or typed. */
export const markOf = (value: CellValue, cell: Cell | null | undefined): number | null =>
  cell?.fromReadings ? cell.fromReadings.mark : value.mark

/** The same in words. */
export const markedWords = (value: CellValue, cell: Cell | undefined): string => {
  const mark = markOf(value, cell)
  return mark === null ? 'not marked' : `marked ${numeral(mark)}`
}

/** What a cell says, for those who hear it. */
export function spoken(value: CellValue, cell: Cell | undefined, counts: number | null): string {
  const marked =
    cell?.fromReadings && value.status === 'in'
      ? cell.fromReadings.mark === null
        ? 'readings not settled'
        : `${numeral(cell.fromReadings.mark)} from readings`
      : writeCellText(value) || 'pending'
  return counts === null ? marked : `${marked}, rescaled, counts as ${numeral(counts)}`
}

/** What a mark counts as where it is rescaled, and whether that is what is shown. */
interface Counted {
  counts: number | null
  asCounted: boolean
}

/**
 * What a cell shows, and how: classes for the cell itself instead of elements in it, since to lay out thousands of those is
 * what takes time as one scrolls.
 */
export function cellShown(
  value: CellValue,
  cell: Cell | undefined,
  passMark: number | null,
  { counts, asCounted }: Counted,
): { classes: string; content: ReactNode } {
  const marked = markOf(value, cell)
  const mark = asCounted ? (counts ?? marked) : marked
  const status =
    value.status === 'in' ? null : (
      <small key="status" className={value.status === 'exempt' ? 'soft' : 'ochre'}>
        {value.status === 'late' ? `${value.daysLate} d` : value.status}
      </small>
    )
  if (mark === null) return { classes: '', content: status ?? (cell?.fromReadings ? <small className="soft">open</small> : null) }
  const text = numeral(mark)
  const classes = [
    text.includes('.') ? '' : styles.whole,
    passMark !== null && mark < passMark ? 'brick' : '',
    cell?.fromReadings ? styles.read : '',
    counts === null ? '' : styles.rescaled,
  ]
  return { classes: classes.join(' '), content: status ? [status, text] : text }
}
