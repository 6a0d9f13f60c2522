import { useDeferredValue, useMemo } from 'react'
import type { SheetByCell } from '#contract'
import { DASH, fixed } from '../../../parts/format'
import type { Cells } from './cells'
import type { CountsAs } from './counts-as'
import { columnFigures } from './figures'
import styles from './sheet.module.css'

interface Props {
  /** What marks count as, where that is what is shown. */
  countsAs: CountsAs | null
  columns: readonly { id: string; passMark: number | null }[]
  rows: SheetByCell['students']
  cells: Cells
  revision: number
  whole: number
  shown: number[]
  places: readonly number[]
  left: (column: number) => number
  each: number
}

/** Averages and counts under each column, of the rows shown. */
export function SheetFoot({ countsAs, columns, rows, cells, revision, whole, shown, places, left, each }: Props) {
  // What was typed is on screen first, the averages a moment later.
  const later = useDeferredValue(revision)
  // Reckoned anew when a cell has changed, which the cells alone do not say.
  const figures = useMemo(
    () => shown.map((column) => columnFigures(rows, cells, places[column]!, columns[column]!.passMark, countsAs?.get(columns[column]!.id))),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [rows, cells, shown, places, later, countsAs, columns],
  )
  const passing = figures.some((f) => f.passed !== null)
  return (
    <div className={`${styles.sheetRow} ${styles.footRow} ${passing ? styles.withPassed : ''}`} role="row" style={{ width: whole }}>
      <div role="rowheader" className={`${styles.frozen} ${styles.number}`} />
      <div role="rowheader" className={`soft small ${styles.frozen} ${styles.nameCell}`}>
        <span>mean</span>
        <span>marked of all</span>
        {passing && <span>passed so far</span>}
      </div>
      {shown.map((column, i) => {
        const f = figures[i]!
        return (
          <div role="gridcell" className={`number ${styles.placed}`} key={column} style={{ left: left(column), width: each }}>
            <b>{f.mean === null ? DASH : fixed(f.mean)}</b>
            <small className={f.marked < f.of ? 'ochre' : 'soft'}>
              {f.marked}/{f.of}
            </small>
            {f.passed !== null && f.marked > 0 && (
              <small className="soft" title={`${f.passed} of ${f.marked} passed so far`}>
                {f.passed}
              </small>
            )}
          </div>
        )
      })}
    </div>
  )
}
