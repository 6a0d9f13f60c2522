import { Printer } from 'lucide-react'
import { Button } from 'react-bootstrap'
import { rubricMaximum } from '#core'
import { plain } from '../../parts/format'
import type { Entry } from './library'

/** An entry as students see it, to be printed on A4: words and points, no notes for markers. */
export function RubricSheet({ entry }: { entry: Entry }) {
  return (
    <div className="print-sheet">
      <div className="stop-head">
        <h1>{entry.of.title}</h1>
        <div className="end no-print">
          <Button size="sm" variant="outline-primary" onClick={() => window.print()}>
            <Printer size={14} aria-hidden /> Print
          </Button>
        </div>
      </div>
      {entry.kind === 'rubric' && (
        <>
          <p className="soft">{plain(rubricMaximum(entry.of))} points in all.</p>
          {entry.of.criteria.map((c) => (
            <table className="sheet-criterion" key={c.id}>
              <caption>
                {c.title}
                {c.penalty && ' (taken off)'}
              </caption>
              <tbody>
                <tr>
                  {c.levels.map((l, i) => (
                    <td key={i} style={{ width: `${100 / c.levels.length}%` }}>
                      <b>
                        {c.penalty ? '−' : ''}
                        {plain(l.points)}
                        {c.ranges && l.to !== undefined && l.to !== l.points && `–${plain(l.to)}`}
                      </b>{' '}
                      <span dir="auto">{l.words}</span>
                    </td>
                  ))}
                </tr>
              </tbody>
            </table>
          ))}
        </>
      )}
      {entry.kind === 'scheme' && (
        <table className="grid">
          <tbody>
            {entry.of.criteria.map((c) => (
              <tr key={c.id}>
                <td className="fw-semibold">{c.title}</td>
                <td>{c.words}</td>
                <td className="num">{plain(c.max)} points</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {entry.kind === 'scale' && (
        <table className="grid" style={{ maxWidth: 420 }}>
          <tbody>
            {[...entry.of.labels].reverse().map((l) => (
              <tr key={l.label}>
                <td className="fw-semibold">{l.label}</td>
                <td className="num">{plain(l.percent)}%</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  )
}
