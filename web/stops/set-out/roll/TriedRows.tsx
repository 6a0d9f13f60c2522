import { Form } from 'react-bootstrap'
import type { TriedRoll } from '#contract'
import { useNames } from '../../../settings/names'
import { counted } from '../../../parts/format'
import styles from './roll.module.css'

const SHOWN = 300

/** What a file would do, row by row, and who is on the roll but not in it. */
export function TriedRows({
  tried,
  leaving,
  onLeaving,
}: {
  tried: TriedRoll
  leaving: ReadonlySet<string>
  onLeaving: (leaving: ReadonlySet<string>) => void
}) {
  const { missing } = tried
  const { shown } = useNames()
  /** Name and section, or with numbers shown the section alone. */
  const said = (text: string) => (shown === 'names' ? text : (text.split(', ').at(-1) ?? ''))
  const rows = tried.rows.slice(0, SHOWN)
  const more = tried.rows.length - rows.length + tried.unlisted
  const turn = (id: string, on: boolean) => {
    const next = new Set(leaving)
    if (on) next.add(id)
    else next.delete(id)
    onLeaving(next)
  }
  return (
    <>
      {missing.length > 0 && (
        <details className="note warn" open={missing.length <= 6}>
          <summary>
            {counted(missing.length, 'student')} on the roll {missing.length === 1 ? 'is' : 'are'} not in the file and{' '}
            {missing.length === 1 ? 'stays' : 'stay'}. Tick who has left.
          </summary>
          <Form.Check
            id="all-left"
            label={`all ${missing.length}`}
            checked={leaving.size === missing.length}
            onChange={(e) => onLeaving(new Set(e.target.checked ? missing.map((m) => m.id) : []))}
          />
          <div className={styles.missingList} role="group" aria-label="Who has left">
            {missing.slice(0, SHOWN).map((m) => (
              <Form.Check
                key={m.id}
                id={`left-${m.id}`}
                label={shown === 'names' ? `${m.candidate} ${m.name}, ${m.section}` : `${m.candidate}, ${m.section}`}
                checked={leaving.has(m.id)}
                onChange={(e) => turn(m.id, e.target.checked)}
              />
            ))}
          </div>
        </details>
      )}
      <table className="grid">
        <thead>
          <tr>
            <th className="number">line</th>
            <th>candidate</th>
            <th>was</th>
            <th>becomes</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map((r, i) => (
            <tr key={i}>
              <td className="number">{r.line}</td>
              <td>{r.candidate || '–'}</td>
              <td className="soft">{said(r.before) || '–'}</td>
              <td>
                <b>{r.after ? said(r.after) : shown === 'names' ? r.name : ''}</b>
              </td>
              <td className={r.outcome === 'refused' ? 'brick' : 'soft'}>
                {r.outcome === 'refused' ? (
                  <>
                    {r.column && <b>{r.column}: </b>}
                    {r.reason}
                  </>
                ) : (
                  [r.outcome, r.reason].filter(Boolean).join(', ')
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {more > 0 && <p className="soft">and {more} more</p>}
    </>
  )
}
