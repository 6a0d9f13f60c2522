import { Form } from 'react-bootstrap'
import { ENCODINGS, type Encoding } from '#core/roll'
import type { TriedRoll } from '#contract'

const SHOWN = 6
// eslint-disable-next-line no-control-regex
const PLAIN = /^[\x00-\x7f]*$/

/** A file that is in no Unicode is read by a guess: the names show whether it is right, and another can be chosen. */
export function LettersRead({ tried, onEncoding }: { tried: TriedRoll; onEncoding: (encoding: Encoding) => void }) {
  if (tried.encoding === null) return null
  const names = [...new Set(tried.rows.map((r) => r.name))].filter((n) => !PLAIN.test(n)).slice(0, SHOWN)
  return (
    <div className="note warn d-flex flex-wrap align-items-baseline gap-2">
      <label htmlFor="roll-encoding">The file is not in UTF-8. Its letters are read as</label>
      <Form.Select
        id="roll-encoding"
        size="sm"
        className="w-auto"
        value={tried.encoding}
        onChange={(e) => onEncoding(e.target.value as Encoding)}
      >
        {Object.entries(ENCODINGS).flatMap(([id, words]) =>
          id === 'utf-8' ? (
            []
          ) : (
            <option key={id} value={id}>
              {words}
            </option>
          ),
        )}
      </Form.Select>
      <span>
        {names.length > 0 ? (
          <>
            Is that right: <b>{names.join(', ')}</b>?
          </>
        ) : (
          'No name has a letter that would show it.'
        )}
      </span>
    </div>
  )
}
