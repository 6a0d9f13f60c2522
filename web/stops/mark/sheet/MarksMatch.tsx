import { useId, useState } from 'react'
import { Form } from 'react-bootstrap'
import { WHO_BY, type MarksMatch as Match, type MarksTable, type WhoBy } from '#core/exchange/marks-who'
import { HeadingLine } from '../../../parts/HeadingLine'
import styles from '../../../parts/column-match.module.css'

interface Props {
  table: MarksTable
  /** Titles of the assessments that marks can be of. */
  titles: readonly string[]
  onMatch: (match: Match) => void
}

const BY: Record<WhoBy, string> = {
  candidate: 'candidate number',
  'external id': 'id from outside',
  'e-mail': 'mail address',
  name: 'name',
}
/** Of a column that is not read; no title has a tab in it. */
const ASIDE = '\t'
const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase()

/** Whose marks a file holds and of what, as it was understood; matched by hand where its heading did not tell, others put aside. */
export function MarksMatch({ table: { header, headingLine, who, marks }, titles, onMatch }: Props) {
  const id = useId()
  const [asked, setAsked] = useState(false)
  const of = (column: number) => titles.find((t) => marks.some((m) => m.column === column && same(m.assessment, t)))
  const unknown = marks.filter((m) => !titles.some((t) => same(t, m.assessment)))
  const isUnknown = (column: number) => unknown.some((m) => m.column === column)
  const unsure = !who || unknown.length > 0
  const named = (column: number) => header[column] || `column ${column + 1}`
  const set = (column: number, title: string) =>
    onMatch({
      headingLine,
      ...(who && { who }),
      marks: [...marks.filter((m) => m.column !== column), ...(title === ASIDE ? [] : [{ column, assessment: title }])].sort(
        (a, b) => a.column - b.column,
      ),
    })
  const setWho = (column: number, by: WhoBy) =>
    onMatch({ headingLine, who: { column, by }, marks: marks.filter((m) => m.column !== column) })
  const aside = header.filter((h, i) => h !== '' && i !== who?.column && !marks.some((m) => m.column === i))
  return (
    <section className="mb-3" aria-label="What the columns are">
      <p className="soft small mb-1">
        {headingLine > 1 && `The heading was found in line ${headingLine}. `}
        {who && `Whose: “${named(who.column)}”, the ${BY[who.by]}. `}
        {aside.length > 0 && marks.length > 0 && `Put aside: ${aside.slice(0, 8).join(', ')}${aside.length > 8 ? ' and more' : ''}. `}
        {!unsure && (
          <button className="quiet-button" aria-expanded={asked} onClick={() => setAsked(!asked)}>
            {asked ? 'done matching' : 'match columns by hand'}
          </button>
        )}
      </p>
      {(unsure || asked) && (
        <div className={styles.columnMatch}>
          {/* Another heading has other columns. */}
          <HeadingLine line={headingLine} onLine={(line) => onMatch({ headingLine: line })} />
          <label htmlFor={`${id}-who`}>
            <span className="soft small">whose marks they are</span>
            <Form.Select
              size="sm"
              id={`${id}-who`}
              value={who?.column ?? ''}
              onChange={(e) => setWho(Number(e.target.value), who?.by ?? 'candidate')}
            >
              {!who && <option value="">say which</option>}
              {header.map((_, i) => (
                <option key={i} value={i}>
                  {named(i)}
                </option>
              ))}
            </Form.Select>
          </label>
          {who && (
            <label htmlFor={`${id}-by`}>
              <span className="soft small">{named(who.column)} is a</span>
              <Form.Select size="sm" id={`${id}-by`} value={who.by} onChange={(e) => setWho(who.column, e.target.value as WhoBy)}>
                {WHO_BY.map((by) => (
                  <option key={by} value={by}>
                    {BY[by]}
                  </option>
                ))}
              </Form.Select>
            </label>
          )}
          {header.map((h, i) =>
            i === who?.column ? null : (
              <label key={i}>
                <span className="soft small">{named(i)}</span>
                <Form.Select
                  size="sm"
                  aria-label={`${named(i)} is`}
                  value={of(i) ?? (isUnknown(i) ? '' : ASIDE)}
                  onChange={(e) => set(i, e.target.value)}
                >
                  {isUnknown(i) && <option value="">say what it is</option>}
                  <option value={ASIDE}>put aside</option>
                  {titles.map((t) => (
                    <option key={t} value={t}>
                      {h !== '' && same(h, t) ? t : `marks of ${t}`}
                    </option>
                  ))}
                </Form.Select>
              </label>
            ),
          )}
        </div>
      )}
    </section>
  )
}
