import { useState } from 'react'

interface Props {
  heads: readonly string[]
  /** Asked for when the table is opened. */
  rows: () => readonly (readonly string[])[]
}

/** What a chart shows, as a table beneath it; the first column says what the others are of. */
export function ChartTable({ heads, rows }: Props) {
  const [open, setOpen] = useState(false)
  return (
    <details className="small chart-table" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="soft">The same as a table</summary>
      {open && (
        <table className="grid">
          <thead>
            <tr>
              {heads.map((h, i) => (
                <th key={h} scope="col" className={i > 0 ? 'number' : undefined}>
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows().map(([first, ...cells]) => (
              <tr key={first}>
                <th scope="row">{first}</th>
                {cells.map((c, i) => (
                  <td key={heads[i + 1]} className="number">
                    {c}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </details>
  )
}
