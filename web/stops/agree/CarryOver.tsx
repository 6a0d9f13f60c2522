import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { routes } from '#contract'
import { call, messageOf } from '../../api/client'
import { useTrial } from '../../course/trial'
import { Dialog, DialogTitle } from '../../parts/Dialog'
import { counted } from '../../parts/format'

interface Props {
  courseId: string
  use: { assessmentId: string; assessment: string }
  to: { id: string; title: string; version: number }
  onClose: () => void
}

/** What carrying marked scripts over to another version would change; it is then tried, and adopted or discarded like anything else. */
export function CarryOver({ courseId, use, to, onClose }: Props) {
  const { propose } = useTrial()
  const found = useQuery({
    queryKey: ['library', courseId, 'carried', use.assessmentId, to.id],
    queryFn: () => call(routes.carriedOver, { params: { courseId, assessmentId: use.assessmentId, standardId: to.id } }),
  })
  const [moves, setMoves] = useState(false)
  const { data } = found
  const would = (moves && data?.nearest) || data
  return (
    <Dialog onClose={onClose}>
      <Modal.Header closeButton>
        <DialogTitle>
          Carry {use.assessment} over to version {to.version}
        </DialogTitle>
      </Modal.Header>
      <Modal.Body>
        {found.error && <p className="note bad">{messageOf(found.error)}</p>}
        {!data && !found.error && <p className="soft">Working out what would change…</p>}
        {data && would && (
          <>
            <p>
              {would.carried === 0 ? (
                'No reading can be carried over.'
              ) : (
                <>
                  <b>{counted(would.carried, 'reading')}</b> would be carried over, each level to the same level. The marks of{' '}
                  <b>{would.moved}</b> of them change
                  {would.settled > 0 && (
                    <>
                      , and <b>{counted(would.settled, 'agreed mark')}</b> with them
                    </>
                  )}
                  .
                </>
              )}
            </p>
            <p className="soft">
              What each marker chose stays kept as it was made. It opens as a trial: the horizon shows who moves before you adopt it, and
              the decision can be withdrawn.
            </p>
            {data.nearest && (
              <>
                <Form.Check
                  id="carry-nearest"
                  checked={moves}
                  onChange={(e) => setMoves(e.target.checked)}
                  label={`also the ${counted(data.nearest.at.length, 'reading')} at a level or label that is gone, to the nearest one`}
                />
                <Readings of={data.nearest.at} />
              </>
            )}
            {data.left.length > 0 && (
              <>
                <p className="mb-1">
                  <span className="ochre">{counted(data.left.length, 'reading')} cannot be carried over</span> and would stay as they are:
                </p>
                <Readings of={data.left} />
              </>
            )}
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="link" onClick={onClose}>
          Leave them as they are
        </Button>
        <Button
          disabled={!would || would.carried === 0}
          onClick={() => {
            propose(would!.changes, `carry ${use.assessment} over`)
            onClose()
          }}
        >
          Try it
        </Button>
      </Modal.Footer>
    </Dialog>
  )
}

function Readings({ of }: { of: readonly { scriptId: string; student: string; marker: string; why: string }[] }) {
  return (
    <ul className="people" style={{ maxHeight: 200, overflow: 'auto' }} tabIndex={0}>
      {of.slice(0, 200).map((l) => (
        <li key={`${l.scriptId} ${l.marker}`}>
          <span>
            {l.student} <span className="soft small">read by {l.marker}</span>
          </span>
          <span className="soft small">{l.why}</span>
        </li>
      ))}
    </ul>
  )
}
