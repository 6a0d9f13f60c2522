import { Form } from 'react-bootstrap'
import type { RubricLayout } from '#core/exchange/rubric-table'
import styles from './agree.module.css'

const ROWS_SHOWN = 62

interface Props {
  table: readonly (readonly string[])[]
  layout: RubricLayout
  onSet: (patch: Partial<RubricLayout>) => void
}

/** The table as it came: of each row and column one says what it is, and what is left out. */
export function TableLayout({ table, layout, onSet }: Props) {
  const { titleColumn, levelColumns, heading, leftOut, pointsRow, maximumColumn } = layout
  const width = Math.max(0, ...table.map((r) => r.length))
  const columns = Array.from({ length: width }, (_, i) => i)
  const columnIs = (c: number) =>
    c === titleColumn ? 'titles' : c === maximumColumn ? 'most points' : levelColumns.includes(c) ? 'level' : 'left out'
  const rowIs = (r: number) => (r === heading ? 'heading' : r === pointsRow ? 'points' : leftOut.includes(r) ? 'left out' : 'criterion')
  const setColumn = (c: number, as: string) => {
    const without = levelColumns.filter((x) => x !== c)
    // There is one column of criteria: what was it before becomes a level.
    if (as === 'titles') onSet({ titleColumn: c, levelColumns: inOrder([...without, titleColumn]) })
    else if (c !== titleColumn)
      onSet({
        levelColumns: as === 'level' ? inOrder([...without, c]) : without,
        maximumColumn: as === 'most points' ? c : maximumColumn === c ? undefined : maximumColumn,
      })
  }
  const setRow = (r: number, as: string) => {
    // Points that stood in a row stand nowhere when it is something else.
    const without = {
      leftOut: leftOut.filter((x) => x !== r),
      ...(pointsRow === r ? { pointsRow: undefined, points: 'none' as const } : {}),
    }
    const kept = heading === r ? null : heading
    if (as === 'heading') onSet({ ...without, heading: r })
    else if (as === 'points') onSet({ ...without, heading: kept, pointsRow: r, points: 'heading' })
    else onSet({ ...without, heading: kept, leftOut: as === 'left out' ? inOrder([...without.leftOut, r]) : without.leftOut })
  }
  return (
    <div className={styles.tableRead} role="region" aria-label="The table as it came" tabIndex={0}>
      <table>
        <thead>
          <tr>
            <td />
            {columns.map((c) => (
              <th key={c} scope="col">
                <Form.Select size="sm" aria-label={`Column ${c + 1} is`} value={columnIs(c)} onChange={(e) => setColumn(c, e.target.value)}>
                  <option>titles</option>
                  <option disabled={c === titleColumn}>level</option>
                  <option disabled={c === titleColumn}>most points</option>
                  <option disabled={c === titleColumn}>left out</option>
                </Form.Select>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.slice(0, ROWS_SHOWN).map((row, r) => (
            <tr key={r} className={rowIs(r) === 'left out' ? styles.leftOut : rowIs(r) === 'heading' ? styles.isHeading : ''}>
              <th scope="row">
                <Form.Select size="sm" aria-label={`Row ${r + 1} is`} value={rowIs(r)} onChange={(e) => setRow(r, e.target.value)}>
                  <option>criterion</option>
                  <option>heading</option>
                  <option>points</option>
                  <option>left out</option>
                </Form.Select>
              </th>
              {columns.map((c) => (
                <td key={c} dir="auto" className={columnIs(c) === 'left out' ? styles.leftOut : ''} title={row[c]}>
                  {row[c]}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

const inOrder = (places: number[]) => places.sort((a, b) => a - b)
