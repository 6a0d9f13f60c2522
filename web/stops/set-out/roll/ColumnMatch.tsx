import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { ROLL_FIELDS } from '#core/roll'
import type { TriedRoll } from '#contract'
import { HeadingLine } from '../../../parts/HeadingLine'
import styles from '../../../parts/column-match.module.css'

const FIELDS = ROLL_FIELDS

/** Which column of the file holds what: said in words, and matched by hand where the headings did not tell. */
export function ColumnMatch({
  header,
  columns,
  headingLine,
  onMatch,
  onHeading,
}: {
  header: string[]
  columns: TriedRoll['columns']
  /** The line that the heading was found in. */
  headingLine: number
  onMatch: (columns: TriedRoll['columns']) => void
  onHeading: (line: number) => void
}) {
  const unsure = columns.section === undefined || (columns.candidate === undefined && columns['external id'] === undefined)
  const [asked, setAsked] = useState(false)
  if (header.length === 0) return null
  const known = FIELDS.filter((f) => columns[f] !== undefined)
  return (
    <div className="mb-3">
      <p className="soft small mb-1">
        {headingLine > 1 && `The heading was found in line ${headingLine}. `}
        {known.length > 0 && <>Understood: {known.map((f) => `${f} from “${header[columns[f]!] ?? '?'}”`).join(', ')}. </>}
        {!unsure && (
          <button className="quiet-button" onClick={() => setAsked((a) => !a)} aria-expanded={asked}>
            {asked ? 'done matching' : 'match columns by hand'}
          </button>
        )}
      </p>
      {(unsure || asked) && (
        <div className={styles.columnMatch}>
          <HeadingLine line={headingLine} onLine={onHeading} />
          {FIELDS.map((f) => (
            <label key={f}>
              <span className="soft small">{f}</span>
              <Form.Select
                size="sm"
                aria-label={f}
                value={columns[f] ?? ''}
                onChange={(e) => {
                  const { [f]: _, ...rest } = columns
                  onMatch(e.target.value === '' ? rest : { ...rest, [f]: Number(e.target.value) })
                }}
              >
                <option value="">not in the file</option>
                {header.map((h, i) => (
                  <option key={i} value={i}>
                    {h || `column ${i + 1}`}
                  </option>
                ))}
              </Form.Select>
            </label>
          ))}
        </div>
      )}
    </div>
  )
}
