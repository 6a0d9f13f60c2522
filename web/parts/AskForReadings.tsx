import { useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { routes } from '#contract'
import { useDecidedCourse } from '../course/course'
import { ask } from '../saving/ask'
import { useWrites } from '../saving/writes'
import { Dialog, DialogTitle } from './Dialog'
import { counted } from './format'

export interface WantedReading {
  assessmentId: string
  studentId: string
  markerId: string | null
}

interface Props {
  wanted: readonly WantedReading[]
  /** Why, to begin with. */
  because: string
  onClose: () => void
  onAsked?: (asked: number) => void
}

/** Asks for further readings: of whom each is, or of whoever suits; they come to the desks of those markers. */
export function AskForReadings({ wanted, because, onClose, onAsked }: Props) {
  const { id, table } = useDecidedCourse()
  const { write } = useWrites()
  const [reason, setReason] = useState(because)
  const [markerId, setMarker] = useState('')
  const [busy, setBusy] = useState(false)
  const named = wanted.every((w) => w.markerId !== null)
  const send = async () => {
    setBusy(true)
    const body = { because: reason.trim(), wanted: wanted.map((w) => ({ ...w, markerId: w.markerId ?? (markerId || null) })) }
    const done = await write('ask for readings', ask(routes.askForReadings, { params: { courseId: id }, body }))
    if (done) onAsked?.(done.asked.length)
    onClose()
  }
  return (
    <Dialog onClose={onClose}>
      <Form
        onSubmit={(e) => {
          e.preventDefault()
          void send()
        }}
      >
        <Modal.Header closeButton>
          <DialogTitle>Ask for {counted(wanted.length, 'further reading')}</DialogTitle>
        </Modal.Header>
        <Modal.Body className="d-grid gap-3">
          {named ? (
            <p className="mb-0">
              {[...new Set(wanted.map((w) => table.markers.find((m) => m.id === w.markerId)?.name ?? ''))].join(', ')}{' '}
              {wanted.length === 1 ? 'reads it' : 'read them'}: {wanted.length === 1 ? 'it comes' : 'they come'} to the end of their pile.
            </p>
          ) : (
            <Form.Group controlId="ask-of">
              <Form.Label className="soft small mb-0">Of whom</Form.Label>
              <Form.Select value={markerId} onChange={(e) => setMarker(e.target.value)}>
                <option value="">whoever can be compared, does not teach the section, and has least to do</option>
                {table.markers.map((m) => (
                  <option key={m.id} value={m.id}>
                    {m.name}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
          )}
          <Form.Group controlId="ask-because">
            <Form.Label className="soft small mb-0">Why (for whoever looks at it later)</Form.Label>
            <Form.Control autoFocus value={reason} maxLength={500} onChange={(e) => setReason(e.target.value)} />
          </Form.Group>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="link" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" disabled={busy || reason.trim() === ''}>
            Ask <kbd>Enter</kbd>
          </Button>
        </Modal.Footer>
      </Form>
    </Dialog>
  )
}
