import { defaultRangeExtractor, useVirtualizer, type Range } from '@tanstack/react-virtual'
import { useCallback, useEffect, useImperativeHandle, useMemo, useRef, type CSSProperties, type KeyboardEvent, type Ref } from 'react'
import type { CellWrite, SheetByCell } from '#contract'
import { numeral } from '../../../parts/format'
import { byRow } from './by-row'
import type { Refused } from './cell-queue'
import type { Cells } from './cells'
import type { CountsAs } from './counts-as'
import type { Wanted } from './rows'
import { SheetFoot } from './SheetFoot'
import { SheetRow } from './SheetRow'
import { useWidth } from '../../../parts/useWidth'
import { rowHeight } from '../../../settings/appearance'
import styles from './sheet.module.css'

/** Widths of what stays in place, in pixels; where the page is narrow it leaves room for two columns of marks. */
const IN_PLACE = { number: 70, name: 170 }
const IN_PLACE_NARROW = { number: 52, name: 96 }
const NARROW = 480
const NARROWEST = 62
const WIDEST = 180
const OVERSCAN = 4

export interface At {
  row: number
  column: number
}

interface Props {
  ref: Ref<{ reveal: (at: At) => void }>
  sheet: SheetByCell
  cells: Cells
  /** The assessments shown, and the place of each in the sheet. */
  columns: SheetByCell['assessments']
  places: readonly number[]
  rows: SheetByCell['students']
  label: (studentId: string) => string
  here: At
  typing: string | null
  sort: Wanted['sort']
  unsaved: ReadonlyMap<string, CellWrite>
  refused: ReadonlyMap<string, Refused>
  wrong: ReadonlyMap<string, { text: string; reason: string }>
  rescaled: CountsAs
  /** Whether marks are shown as they count. */
  asCounted: boolean
  onSort: (column: number) => void
  onKeyDown: (e: KeyboardEvent) => void
  onPaste: (text: string) => void
  onGo: (row: number, column: number) => void
  onType: (row: number, column: number) => void
  onCommit: (text: string, down: number, right: number) => void
  onCancel: () => void
}

/** The sheet itself: rows and columns drawn as far as they are in view, numbers and names held in place. */
export function SheetGrid(props: Props) {
  const { ref, sheet, cells, columns, places, rows, label, here, typing, sort, unsaved, refused, wrong, onGo } = props
  const scroller = useRef<HTMLDivElement>(null)
  const width = useWidth(scroller)
  const { number, name } = width > 0 && width < NARROW ? IN_PLACE_NARROW : IN_PLACE
  const frozen = number + name
  const each = Math.min(WIDEST, Math.max(NARROWEST, Math.floor((width - frozen) / Math.max(1, columns.length))))
  const alone = columns.length === 1
  const unsavedIn = useMemo(() => byRow(unsaved), [unsaved])
  const refusedIn = useMemo(() => byRow(refused), [refused])
  const wrongIn = useMemo(() => byRow(wrong), [wrong])
  const sectionOf = useMemo(() => new Map(sheet.sections.map((s) => [s.id, s.name])), [sheet.sections])
  // The row that is typed in stays drawn however far one scrolls: what is typed is in it.
  const typedRow = typing === null ? null : here.row
  const inRange = useCallback(
    (range: Range) => {
      const rowsIn = defaultRangeExtractor(range)
      return typedRow === null || rowsIn.includes(typedRow) ? rowsIn : [...rowsIn, typedRow].sort((a, b) => a - b)
    },
    [typedRow],
  )
  const down = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight(),
    overscan: OVERSCAN,
    rangeExtractor: inRange,
    scrollPaddingStart: 76,
    scrollPaddingEnd: 44,
  })
  const across = useVirtualizer({
    horizontal: true,
    count: columns.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => each,
    overscan: 1,
    scrollPaddingStart: frozen,
  })
  const { measure } = across
  useEffect(() => measure(), [each, measure])
  useImperativeHandle(ref, () => ({
    reveal: (at) => {
      down.scrollToIndex(at.row)
      across.scrollToIndex(at.column)
    },
  }))
  useEffect(() => {
    if (typing === null) scroller.current?.querySelector<HTMLElement>('[data-here]')?.focus({ preventScroll: true })
  }, [here.row, here.column, typing])

  const rowsDrawn = down.getVirtualItems()
  // A row that comes into view takes the elements of one that left: to fill them anew is quicker than to make them.
  const slots = Math.max(rowsDrawn.length, Math.ceil((down.scrollRect?.height ?? 0) / rowHeight()) + 2 * OVERSCAN + 1)
  // The row that is typed in keeps its own, so that nothing is made anew as typing begins and ends; who would need it takes a spare one.
  const slotOf = (row: number) => (typedRow !== null && row !== typedRow && row % slots === typedRow % slots ? 'spare' : row % slots)
  const inSight = rowsDrawn.some((r) => r.index === here.row)
  useEffect(() => {
    const grid = scroller.current
    const at = document.activeElement
    // The page itself has the focus once the element that had it is gone.
    if (!grid || (at !== document.body && !grid.contains(at))) return
    // Keys go on to the sheet while the chosen cell is scrolled out of sight, and to the cell when it is back.
    if (!inSight) grid.focus({ preventScroll: true })
    else if (at === document.body || at === grid) grid.querySelector<HTMLElement>('[data-here]')?.focus({ preventScroll: true })
  }, [inSight, slots])

  const whole = alone ? Math.max(width, frozen + each) : frozen + each * columns.length
  const shown = across.getVirtualItems()
  const [from, to] = [shown[0]?.index ?? 0, shown.at(-1)?.index ?? -1]
  const inView = useMemo(() => Array.from({ length: to - from + 1 }, (_, i) => from + i), [from, to])
  const left = (column: number) => frozen + column * each
  return (
    <div
      className={styles.sheet}
      ref={scroller}
      style={{ '--number': `${number}px`, '--name': `${name}px` } as CSSProperties}
      role="grid"
      tabIndex={-1}
      aria-label="Marks"
      aria-rowcount={rows.length + 1}
      aria-colcount={columns.length + 2}
      onKeyDown={props.onKeyDown}
      onPaste={(e) => {
        if (typing !== null) return
        e.preventDefault()
        props.onPaste(e.clipboardData.getData('text/plain'))
      }}
    >
      <div className={`${styles.sheetRow} ${styles.headRow}`} role="row" style={{ width: whole }}>
        <div role="columnheader" className={`soft ${styles.frozen} ${styles.number}`}>
          number
        </div>
        <div role="columnheader" className={`soft ${styles.frozen} ${styles.nameCell}`}>
          student
        </div>
        {shown.map(({ index }) => {
          const a = columns[index]!
          const sorted = sort?.column === places[index] ? sort : null
          return (
            <div
              role="columnheader"
              key={a.id}
              className={`number ${styles.placed}`}
              style={{ left: left(index), width: each }}
              aria-colindex={index + 3}
              aria-sort={sorted ? (sorted.down ? 'descending' : 'ascending') : undefined}
            >
              <button title={`${a.title}, out of ${numeral(a.outOf)}: sort by it`} onClick={() => props.onSort(places[index]!)}>
                <span className={styles.title}>
                  {a.title}
                  {sorted && (sorted.down ? ' ↓' : ' ↑')}
                </span>
                <span className="soft">{a.byStanding === null ? `of ${numeral(a.outOf)}` : 'by standing'}</span>
              </button>
            </div>
          )
        })}
      </div>
      <div role="presentation" style={{ height: down.getTotalSize(), width: whole, position: 'relative' }}>
        {rowsDrawn.map(({ index: row, start }) => {
          const s = rows[row]!
          const isHere = row === here.row
          return (
            <SheetRow
              key={slotOf(row)}
              student={s}
              label={label(s.id)}
              row={row}
              start={start}
              columns={columns}
              places={places}
              beside={alone ? (sectionOf.get(s.sectionId) ?? '') : null}
              from={from}
              to={to}
              frozen={frozen}
              each={each}
              whole={whole}
              chosen={isHere ? here.column : null}
              typing={isHere ? typing : null}
              cells={cells}
              revision={cells.revisionOf(cells.placeOf(s.id))}
              unsaved={unsavedIn(s.id)}
              refused={refusedIn(s.id)}
              wrong={wrongIn(s.id)}
              rescaled={props.rescaled}
              asCounted={props.asCounted}
              onGo={onGo}
              onType={props.onType}
              onCommit={props.onCommit}
              onCancel={props.onCancel}
            />
          )
        })}
      </div>
      <SheetFoot
        countsAs={props.asCounted ? props.rescaled : null}
        columns={columns}
        rows={rows}
        cells={cells}
        revision={cells.revision}
        whole={whole}
        shown={inView}
        places={places}
        left={left}
        each={each}
      />
    </div>
  )
}
