import { useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { routes, type IdeaStop } from '#contract'
import type { Change } from '#core/trial'
import { call, messageOf } from '../../api/client'
import { useDecidedCourse } from '../../course/course'
import { Dialog, DialogTitle } from '../Dialog'
import { useSaved } from '../../saving/saved'

/** Gives what is tried a name, and keeps it beside other ideas. */
export function KeepIdea({ stop, changes, onClose }: { stop: IdeaStop; changes: Change[]; onClose: (keptId: string | null) => void }) {
  const { id } = useDecidedCourse()
  const { saving } = useSaved()
  const [name, setName] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  const keep = async () => {
    setProblem(null)
    try {
      const kept = await saving(call(routes.keepIdea, { params: { courseId: id }, body: { stop, name, changes } }))
      onClose(kept.id)
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  return (
    <Dialog onClose={() => onClose(null)}>
      <Modal.Header closeButton>
        <DialogTitle>Keep what is tried</DialogTitle>
      </Modal.Header>
      <Form
        className="dialog-inside"
        onSubmit={(e) => {
          e.preventDefault()
          void keep()
        }}
      >
        <Modal.Body>
          <label htmlFor="idea-name">What it is called</label>
          <Form.Control id="idea-name" autoFocus value={name} maxLength={80} onChange={(e) => setName(e.target.value)} />
          <p className="small soft mt-2 mb-0">It is kept as it is tried now; the trial stays open, and nothing comes into force.</p>
          {problem && (
            <p className="note bad mt-2 mb-0" role="alert">
              {problem}
            </p>
          )}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="link" onClick={() => onClose(null)}>
            Leave it
          </Button>
          <Button type="submit" disabled={name.trim() === ''}>
            Keep it
          </Button>
        </Modal.Footer>
      </Form>
    </Dialog>
  )
}
