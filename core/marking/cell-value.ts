import type { CellText } from '../exchange/cell-text'
import type { Status } from '../grades/course'
import { hasWork } from '../trial/standing-marks'

/** What stands in a cell of the mark sheet. */
export interface CellValue {
  mark: number | null
  status: Status
  daysLate: number
  /** What the student is to read beside the mark; left out where it stays as it is. */
  remark?: string | undefined
}

/** Characters of a remark. */
export const MOST_REMARK = 4000

export const BLANK: CellValue = { mark: null, status: 'in', daysLate: 0 }

/** A cell with another status: its mark stays as long as there is work, and work that never came has none. */
export const withStatus = (was: CellValue, status: Status, daysLate = 0): CellValue => ({
  mark: hasWork(status) ? was.mark : null,
  status,
  daysLate: status === 'late' ? daysLate : 0,
})

/**
 * What a typed, pasted or brought in text makes of a cell, the same for all three.
 * @returns null where it says nothing of the cell: a blank, or what cannot be read
 */
export function cellAfter(was: CellValue, text: CellText): CellValue | null {
  switch (text.kind) {
    case 'blank':
    case 'wrong':
      return null
    case 'status':
      return withStatus(was, text.status)
    case 'late':
      return withStatus(was, 'late', text.daysLate)
    case 'mark':
      return { mark: text.mark, status: text.status, daysLate: text.daysLate }
  }
}
