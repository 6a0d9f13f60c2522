import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { MOST_REMARK } from '#core/marking'
import { useTyped } from '../../../parts/useTyped'

interface Props {
  /** Null where it is not known yet. */
  remark: string | null
  /** Whether the mark beside it is one that is typed here. */
  writable: boolean
  /** Whether one that stands can be taken away. */
  removable: boolean
  onRemark: (words: string, before: string) => void
}

/** What the student is to read beside a mark that was typed: sent when one goes on from it. */
export function RemarkField({ remark, writable, removable, onRemark }: Props) {
  // While what was sent is asked for again, what stood last goes on being shown.
  const [known, setKnown] = useState(remark)
  if (remark !== null && remark !== known) setKnown(remark)
  const before = known ?? ''
  const send = (text: string) => text.trim() !== before && onRemark(text.trim(), before)
  const typed = useTyped(before, send)
  if (!writable)
    return before === '' ? null : (
      <p className="mt-2 mb-0" dir="auto">
        <span className="soft small">For the student:</span> {before}{' '}
        {removable && (
          <button className="quiet-button" onClick={() => onRemark('', before)}>
            take it away
          </button>
        )}
      </p>
    )
  return (
    <Form.Group controlId="remark" className="mt-2">
      <Form.Label className="soft small mb-0">Remark for the student, seen once the mark is released</Form.Label>
      <Form.Control
        as="textarea"
        rows={2}
        dir="auto"
        value={typed.text}
        maxLength={MOST_REMARK}
        disabled={known === null}
        onChange={(e) => typed.type(e.target.value)}
        onBlur={() => {
          typed.sent()
          send(typed.text)
        }}
        onKeyDown={(e) => {
          if (e.key === 'Escape') typed.putBack()
          if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) e.currentTarget.blur()
        }}
      />
    </Form.Group>
  )
}
