import { memo } from 'react'
import { writeCellText } from '#core/exchange/cell-text'
import { scaleLabel } from '#core/scales'
import type { Cell, CellWrite, SheetByCell } from '#contract'
import { counted, numeral } from '../../../parts/format'
import type { CountsAs } from './counts-as'
import { CellInput } from './CellInput'
import { BLANK, type CellValue } from '#core/marking'
import type { Refused } from './cell-queue'
import { cellShown, markedWords, markOf, spoken } from './cell-shown'
import type { Cells } from './cells'
import styles from './sheet.module.css'

interface Props {
  student: SheetByCell['students'][number]
  label: string
  row: number
  /** Where it stands, in pixels from the top. */
  start: number
  columns: SheetByCell['assessments']
  places: readonly number[]
  /** Where one assessment is shown alone: what section it is, told with how the script stands. */
  beside: string | null
  /** First and last column in view. */
  from: number
  to: number
  /** Widths in pixels: of what is frozen, of each column, and of the whole. */
  frozen: number
  each: number
  whole: number
  /** The column chosen in this row; null where it is another row. */
  chosen: number | null
  /** What is being typed in the chosen cell; null where nothing is. */
  typing: string | null
  cells: Cells
  /** Raised when a cell of the row changes, which the cells alone do not say. */
  revision: number
  /** What stands in cells of the row otherwise than it is saved; nothing of others. */
  unsaved: ReadonlyMap<string, CellWrite>
  refused: ReadonlyMap<string, Refused>
  wrong: ReadonlyMap<string, { text: string; reason: string }>
  rescaled: CountsAs
  asCounted: boolean
  onGo: (row: number, column: number) => void
  onType: (row: number, column: number) => void
  onCommit: (text: string, down: number, right: number) => void
  onCancel: () => void
}

/** One student's marks. While one scrolls, only rows that come into view are drawn. */
export const SheetRow = memo(function SheetRow(props: Props) {
  const { student: s, label, row, columns, places, beside, from, to, chosen, typing, cells, unsaved, refused, wrong } = props
  const place = cells.placeOf(s.id)
  const valueOf = (key: string, at: number): CellValue => unsaved.get(key) ?? cells.get(place, at) ?? BLANK
  return (
    <div
      className={`${styles.sheetRow} ${styles.bodyRow}`}
      role="row"
      aria-rowindex={row + 2}
      style={{ transform: `translateY(${props.start}px)`, width: props.whole }}
    >
      <div role="rowheader" className={`soft ${styles.frozen} ${styles.number}`}>
        {s.candidate}
      </div>
      <div role="rowheader" className={`${styles.name} ${styles.frozen} ${styles.nameCell}`} title={label}>
        {label}
      </div>
      {columns.slice(from, to + 1).map((a, i) => {
        const column = from + i
        const key = `${s.id} ${a.id}`
        const here = column === chosen
        const style = { left: props.frozen + column * props.each, width: props.each }
        if (here && typing !== null)
          return (
            <CellInput
              key={a.id}
              label={`${a.title}, ${label}`}
              text={typing}
              style={style}
              onCommit={props.onCommit}
              onCancel={props.onCancel}
            />
          )
        const at = places[column]!
        const open = cells.isSet(place, at)
        const cell = cells.get(place, at)
        const value = valueOf(key, at)
        const fault = wrong.get(key)?.reason ?? refused.get(key)?.message
        const waits = unsaved.has(key)
        const asTyped = wrong.get(key)?.text ?? (refused.has(key) ? writeCellText(refused.get(key)!.typed) : null)
        // What was typed since counts for what it will be reckoned to.
        const counts = waits || !open ? null : (props.rescaled.get(a.id)?.get(s.id) ?? null)
        const shown = asTyped === null && open ? cellShown(value, cell, a.passMark, { counts, asCounted: props.asCounted }) : null
        return (
          <div
            key={a.id}
            role="gridcell"
            aria-colindex={column + 3}
            aria-selected={here}
            tabIndex={here ? 0 : -1}
            data-here={here || undefined}
            style={style}
            className={`${styles.cell} number ${styles.placed} ${shown?.classes ?? ''} ${!open ? styles.notSet : ''} ${fault ? styles.fault : ''} ${waits ? styles.unsaved : ''} ${!waits && cells.isPending(place, at) ? styles.pending : ''}`}
            title={fault ?? titleOf(value, cell, counts)}
            aria-label={`${a.title}, ${label}: ${open ? spoken(value, cell, counts) : 'not set'}${fault ? `. Not saved: ${fault}` : ''}`}
            onMouseDown={() => props.onGo(row, column)}
            onDoubleClick={() => props.onType(row, column)}
          >
            {asTyped ?? shown?.content}
          </div>
        )
      })}
      {beside !== null && columns[0] && (
        <div role="rowheader" className={`soft ${styles.placed} ${styles.beside}`} style={{ left: props.frozen + props.each }}>
          {besideWords(
            beside,
            columns[0],
            valueOf(`${s.id} ${columns[0].id}`, places[0]!),
            cells.get(place, places[0]!),
            props.rescaled.get(columns[0].id)?.get(s.id) ?? null,
          )}
        </div>
      )}
    </div>
  )
})

const titleOf = (value: CellValue, cell: Cell | undefined, counts: number | null) =>
  [
    value.status === 'late' ? `late by ${counted(value.daysLate, 'day')}` : '',
    cell?.fromReadings ? 'from readings: settled at Reconcile' : '',
    counts === null ? '' : `rescaled: ${markedWords(value, cell)}, counts as ${numeral(counts)}`,
  ]
    .filter(Boolean)
    .join(', ') || undefined

/** The section, what the mark is called on the scale it is marked on, and where it comes from. */
function besideWords(
  section: string,
  { labels, outOf }: Props['columns'][number],
  value: CellValue,
  cell: Cell | undefined,
  counts: number | null,
): string {
  const mark = markOf(value, cell)
  return [
    section,
    counts !== null && `${markedWords(value, cell)}, counts as ${numeral(counts)}`,
    labels && mark !== null && scaleLabel({ labels }, (mark / outOf) * 100),
    value.status === 'late' && `late by ${counted(value.daysLate, 'day')}`,
    cell?.fromReadings && (cell.fromReadings.readings > 0 ? counted(cell.fromReadings.readings, 'reading') : 'from readings'),
  ]
    .filter(Boolean)
    .join(' · ')
}
