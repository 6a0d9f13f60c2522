import type { ReactNode } from 'react'
import { writeCellText } from '#core/exchange/cell-text'
import type { Cell } from '#contract'
import { numeral } from '../../../parts/format'
import type { CellValue } from '#core/marking'

/** What a cell says, for those who hear it. */
export function spoken(value: CellValue, cell: Cell | undefined): string {
  if (cell?.fromReadings && value.status === 'in')
    return cell.fromReadings.mark === null ? 'readings not settled' : `${numeral(cell.fromReadings.mark)} from readings`
  return writeCellText(value) || 'pending'
}

/**
 * What a cell shows, and how: classes for the cell itself instead of elements in it, since to lay out thousands of those is
 * what takes time as one scrolls.
 */
export function cellShown(value: CellValue, cell: Cell | undefined, passMark: number | null): { classes: string; content: ReactNode } {
  const mark = cell?.fromReadings ? cell.fromReadings.mark : value.mark
  const status =
    value.status === 'in' ? null : (
      <small key="status" className={value.status === 'exempt' ? 'soft' : 'ochre'}>
        {value.status === 'late' ? `${value.daysLate} d` : value.status}
      </small>
    )
  if (mark === null) return { classes: '', content: status ?? (cell?.fromReadings ? <small className="soft">open</small> : null) }
  const text = numeral(mark)
  const classes = [text.includes('.') ? '' : 'whole', passMark !== null && mark < passMark ? 'brick' : '', cell?.fromReadings ? 'read' : '']
  return { classes: classes.join(' '), content: status ? [status, text] : text }
}
