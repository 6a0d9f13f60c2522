import { useId } from 'react'
import { Form } from 'react-bootstrap'
import type { SheetOfFile } from '#core/exchange/sheets-of-file'

/** Which sheets of a workbook are read, where it has several: those of one form together, others when they are chosen. */
export function SheetsRead({ sheets, onChoose }: { sheets: readonly SheetOfFile[]; onChoose: (names: string[]) => void }) {
  const id = useId()
  if (sheets.length < 2) return null
  const chosen = sheets.filter((s) => s.chosen)
  return (
    <fieldset className="mb-2">
      <legend className="soft small mb-0">Sheets that are read</legend>
      <div className="d-flex flex-wrap column-gap-3">
        {sheets.map((s, i) => (
          <Form.Check
            key={s.name}
            id={`${id}-${i}`}
            label={
              <>
                {s.name}
                {s.hidden && <span className="soft"> (hidden)</span>}
                {s.chosen && s.linesBefore > 0 && <span className="soft"> from line {s.linesBefore + 1}</span>}
              </>
            }
            checked={s.chosen}
            // One has to stay.
            disabled={s.chosen && chosen.length === 1}
            onChange={(e) => onChoose(sheets.filter((o) => (o === s ? e.target.checked : o.chosen)).map((o) => o.name))}
          />
        ))}
      </div>
    </fieldset>
  )
}
