import { useRef, useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { Dialog } from '../parts/Dialog'
import { messageOf, ProblemError } from '../api/client'
import { useKept } from '../saving/useKept'
import { counted } from '../parts/format'
import { useCourseSoFar } from './course'
import { useTrial } from './trial'

/** Which of the changes the server refused, by its place; null where it refused none of them alone. */
const placeOf = (e: unknown): number | null => {
  const at = e instanceof ProblemError ? /^changes\.(\d+)$/.exec(e.problem.field ?? '') : null
  return at ? Number(at[1]) : null
}

/** Adopting asks once, with the consequence in figures, and takes the reason for the record. */
export function AdoptDialog({ onClose }: { onClose: () => void }) {
  const { courseId, changes, adopt, setTrial } = useTrial()
  const moves = useCourseSoFar().course?.trial.change
  // Kept where it was refused, so that it need not be typed again.
  const [reason, setReason] = useKept(`adopt ${courseId}`, () => '')
  const [problem, setProblem] = useState<string | null>(null)
  /** Place of the change that does not fit the course any more. */
  const [unfit, setUnfit] = useState<number | null>(null)
  const why = useRef<HTMLInputElement>(null)
  const [busy, setBusy] = useState(false)
  const submit = async () => {
    setBusy(true)
    setUnfit(null)
    try {
      await adopt(reason.trim())
      setReason('')
      onClose()
    } catch (e) {
      setProblem(messageOf(e))
      setUnfit(placeOf(e))
      setBusy(false)
      why.current?.focus()
    }
  }
  return (
    <Dialog onClose={onClose} keeps>
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
            <Form.Control ref={why} autoFocus value={reason} maxLength={2000} onChange={(e) => setReason(e.target.value)} />
          </Form.Group>
          {problem && (
            <div className="note bad mt-3" role="alert">
              <p className="mb-0">{problem}</p>
              {unfit !== null && changes.length > 1 && (
                <Button
                  size="sm"
                  variant="outline-primary"
                  className="mt-2"
                  onClick={() => {
                    setTrial(
                      changes.filter((_, i) => i !== unfit),
                      'leave a change out',
                    )
                    setUnfit(null)
                    setProblem(null)
                    why.current?.focus()
                  }}
                >
                  Leave this one out, keep the other {changes.length - 1}
                </Button>
              )}
            </div>
          )}
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
