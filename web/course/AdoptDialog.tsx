import { useMemo, useRef, useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { movesInWords, movesOf } from '#core/rescale'
import { DecidedMeanwhile, type CourseTable } from '#contract'
import { Dialog, DialogTitle } from '../parts/Dialog'
import { messageOf, ProblemError } from '../api/client'
import { useKept } from '../saving/useKept'
import { usePersonLabels } from '../settings/names'
import { counted } from '../parts/format'
import { useCourseSoFar } from './course'
import { useTrial } from './trial'

/** Which of the changes the server refused, by its place; null where it refused none of them alone. */
const placeOf = (e: unknown): number | null => {
  const at = e instanceof ProblemError ? /^changes\.(\d+)$/.exec(e.problem.field ?? '') : null
  return at ? Number(at[1]) : null
}

/** What was decided about the same since it was tried, where that is why the server refused. */
const decidedOf = (e: unknown): DecidedMeanwhile | null =>
  e instanceof ProblemError ? (DecidedMeanwhile.safeParse(e.problem.current).data ?? null) : null
const NOBODY: CourseTable['students'] = []
/** So many are named, and the rest counted. */
const NAMED = 6

/** Adopting asks once, with the consequence in figures, and takes the reason for the record. */
export function AdoptDialog({ onClose }: { onClose: () => void }) {
  const { courseId, changes, adopt, setTrial } = useTrial()
  const { course } = useCourseSoFar()
  const moves = course?.trial.change
  const label = usePersonLabels(course?.table.students ?? NOBODY)
  // Kept where it was refused, so that it need not be typed again.
  const [reason, setReason] = useKept(`adopt ${courseId}`, () => '')
  const [problem, setProblem] = useState<string | null>(null)
  /** Place of the change that does not fit the course any more. */
  const [unfit, setUnfit] = useState<number | null>(null)
  const [meanwhile, setMeanwhile] = useState<DecidedMeanwhile | null>(null)
  const why = useRef<HTMLInputElement>(null)
  const [busy, setBusy] = useState(false)
  const submit = async (seen?: Parameters<typeof adopt>[1]) => {
    setBusy(true)
    setUnfit(null)
    setMeanwhile(null)
    try {
      await adopt(reason.trim(), seen)
      setReason('')
      onClose()
    } catch (e) {
      setProblem(messageOf(e))
      setUnfit(placeOf(e))
      setMeanwhile(decidedOf(e))
      setBusy(false)
      why.current?.focus()
    }
  }
  const leaveOut = (places: readonly number[], label: string) => {
    const left = changes.filter((_, i) => !places.includes(i))
    setTrial(left, label)
    setUnfit(null)
    setMeanwhile(null)
    setProblem(null)
    if (left.length === 0) onClose()
    else why.current?.focus()
  }
  const places = useMemo(() => meanwhile?.decided.map((d) => d.place) ?? [], [meanwhile])
  return (
    <Dialog onClose={onClose} keeps>
      <Form
        onSubmit={(e) => {
          e.preventDefault()
          void submit()
        }}
      >
        <Modal.Header closeButton>
          <DialogTitle>Adopt this trial</DialogTitle>
        </Modal.Header>
        <Modal.Body>
          <p>
            {counted(changes.length, 'change')}
            {moves
              ? `: ${moves.movers.length === 0 ? 'no grade changes' : `${counted(moves.movers.length, 'grade')} ${moves.movers.length === 1 ? 'changes' : 'change'}: ${movesInWords(movesOf(moves))}`}.`
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
                <Button size="sm" variant="outline-primary" className="mt-2" onClick={() => leaveOut([unfit], 'leave a change out')}>
                  Leave this one out, keep the other {changes.length - 1}
                </Button>
              )}
              {meanwhile && (
                <>
                  <ul className="mb-0">
                    {meanwhile.decided.slice(0, NAMED).map((d) => (
                      <li key={d.place}>
                        {d.studentId !== null && `${label(d.studentId)}: `}
                        {d.words}
                      </li>
                    ))}
                    {places.length > NAMED && <li>and {places.length - NAMED} more</li>}
                  </ul>
                  <div className="d-flex gap-2 mt-2">
                    <Button
                      size="sm"
                      variant="outline-primary"
                      disabled={busy || reason.trim() === ''}
                      onClick={() => void submit({ places, version: meanwhile.courseVersion })}
                    >
                      Replace {places.length === 1 ? 'it' : `these ${places.length}`}
                    </Button>
                    <Button size="sm" variant="outline-primary" onClick={() => leaveOut(places, 'leave what was decided meanwhile')}>
                      Leave {places.length === 1 ? 'it' : 'them'} as decided
                    </Button>
                  </div>
                </>
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
