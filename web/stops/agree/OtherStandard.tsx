import type { LibraryFile } from '#contract'
import { numeral } from '../../parts/format'

/** A mark scheme or a scale of a file, before it is made. */
export function OtherStandard({ standard }: { standard: LibraryFile['others'][number]['standard'] }) {
  const [heads, rows] =
    standard.kind === 'scale'
      ? [['label', 'percent', 'from'], standard.body.labels.map((l) => [l.label, `${numeral(l.percent)}%`, `${numeral(l.threshold)}%`])]
      : [['part', 'marks', 'for what'], standard.body.criteria.map((c) => [c.title, numeral(c.max), c.words])]
  return (
    <table className="grid mt-3">
      <thead>
        <tr>
          {heads.map((h) => (
            <th key={h} scope="col">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((cells, i) => (
          <tr key={i}>
            {cells.map((c, k) => (
              <td key={heads[k]} dir="auto">
                {c}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  )
}
