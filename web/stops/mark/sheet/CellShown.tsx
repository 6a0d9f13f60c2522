import { writeCellText } from '#core'
import type { Cell } from '#contract'
import { plain } from '../../../parts/format'
import type { CellValue } from './cell-queue'

/** What a cell says, for those who hear it. */
export function spoken(value: CellValue, cell: Cell | undefined): string {
  if (cell?.fromReadings && value.status === 'in')
    return cell.fromReadings.mark === null ? 'readings not settled' : `${plain(cell.fromReadings.mark)} from readings`
  return writeCellText(value) || 'pending'
}

export function CellShown({ value, cell, passMark }: { value: CellValue; cell: Cell | undefined; passMark: number | null }) {
  const mark = cell?.fromReadings ? cell.fromReadings.mark : value.mark
  const failed = mark !== null && passMark !== null && mark < passMark
  return (
    <>
      {value.status !== 'in' && (
        <small className={value.status === 'exempt' ? 'soft' : 'ochre'}>
          {value.status === 'late' ? `${value.daysLate} d` : value.status}
        </small>
      )}
      {mark !== null ? (
        <span className={`${failed ? 'brick' : ''} ${cell?.fromReadings ? 'read' : ''}`}>
          <Aligned mark={mark} />
        </span>
      ) : cell?.fromReadings && value.status === 'in' ? (
        <small className="soft">open</small>
      ) : null}
    </>
  )
}

/** A mark with its point under the others'. */
function Aligned({ mark }: { mark: number }) {
  const [whole, part] = plain(mark).split('.')
  return (
    <>
      {whole}
      <span className="part">{part === undefined ? '' : `.${part}`}</span>
    </>
  )
}
