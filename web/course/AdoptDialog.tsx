import { useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { Dialog } from '../parts/Dialog'
import { messageOf } from '../api/client'
import { counted } from '../parts/format'
import { useCourseSoFar } from './course'
import { useTrial } from './trial'

/** Adopting asks once, with the consequence in figures, and takes the reason for the record. */
export function AdoptDialog({ onClose }: { onClose: () => void }) {
  const { changes, adopt } = useTrial()
  const moves = useCourseSoFar().course?.trial.change
  const [reason, setReason] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)
  const submit = async () => {
    setBusy(true)
    try {
      await adopt(reason.trim())
      onClose()
    } catch (e) {
      setProblem(messageOf(e))
      setBusy(false)
    }
  }
  return (
    <Dialog onClose={onClose}>
      <Form
        onSubmit={(e) => {
          e.preventDefault()
          void submit()
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title>Adopt this trial</Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <p>
            {counted(changes.length, 'change')}
            {moves
              ? `: ${counted(moves.movers.length, 'grade')} ${moves.movers.length === 1 ? 'moves' : 'move'}, ${moves.up} up, ${moves.down} down.`
              : '.'}{' '}
            It can be withdrawn from the record at any time before the course is confirmed.
          </p>
          <Form.Group controlId="adopt-reason">
            <Form.Label className="soft small mb-0">Why (kept in the record)</Form.Label>
            <Form.Control autoFocus value={reason} maxLength={2000} onChange={(e) => setReason(e.target.value)} />
          </Form.Group>
          {problem && <p className="note bad mt-3">{problem}</p>}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="link" onClick={onClose}>
            Not yet
          </Button>
          <Button type="submit" disabled={busy || reason.trim() === ''}>
            Adopt <kbd>Enter</kbd>
          </Button>
        </Modal.Footer>
      </Form>
    </Dialog>
  )
}
