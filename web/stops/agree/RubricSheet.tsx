import { Printer } from 'lucide-react'
import { Button } from 'react-bootstrap'
import { StandardInWords, type StandardShown } from '../../parts/standard/StandardInWords'
import type { Entry } from './library'
import { OutcomeLevels } from './OutcomeLevels'

/** An entry as students see it, to be printed on A4. */
export function RubricSheet({ entry }: { entry: Entry }) {
  return (
    <div>
      <div className="stop-head">
        <h1>{entry.standard.title}</h1>
        <div className="at-end no-print">
          <Button size="sm" variant="outline-primary" onClick={() => window.print()}>
            <Printer size={14} aria-hidden /> Print
          </Button>
        </div>
      </div>
      {entry.kind === 'outcome' ? (
        <OutcomeLevels outcome={entry.standard} />
      ) : (
        <StandardInWords standard={{ kind: entry.kind, body: entry.standard } as StandardShown} />
      )}
    </div>
  )
}
