import { useState, type ReactNode } from 'react'
import { Button, Form } from 'react-bootstrap'
import { messageOf } from '../../api/client'
import { useDecidedCourse } from '../../course/course'
import { useDraft } from '../../saving/drafts'
import { useSaved } from '../../saving/saved'
import { useIssues } from './useIssues'

/** A sentence that is signed with, or a reason that is given. */
export function StatementForm({
  id,
  words,
  action,
  doing,
  disabled,
  onSend,
  primary,
}: {
  id: string
  words: string
  action: string
  /** What is said while it is done. */
  doing?: ReactNode
  disabled?: boolean
  onSend: (statement: string) => Promise<unknown>
  primary?: boolean
}) {
  const { id: courseId } = useDecidedCourse()
  const { again } = useIssues()
  const { saving } = useSaved()
  const [busy, setBusy] = useState(false)
  const [text, setText, drop] = useDraft(`statement ${courseId} ${id}`)
  const [problem, setProblem] = useState<string | null>(null)
  const send = async () => {
    setProblem(null)
    setBusy(true)
    try {
      await saving(onSend(text.trim()))
      drop()
      await again()
    } catch (e) {
      setProblem(messageOf(e))
    } finally {
      setBusy(false)
    }
  }
  return (
    <Form
      className="mt-2"
      onSubmit={(e) => {
        e.preventDefault()
        void send()
      }}
    >
      <Form.Label htmlFor={id} className="soft small mb-0">
        {words}
      </Form.Label>
      <Form.Control id={id} value={text} maxLength={2000} disabled={disabled} onChange={(e) => setText(e.target.value)} />
      <Button
        type="submit"
        className="mt-2"
        variant={primary ? 'primary' : 'outline-primary'}
        disabled={disabled || busy || text.trim() === ''}
      >
        {action}
      </Button>
      {busy && doing}
      {problem && (
        <p className="note bad" role="alert">
          {problem}
        </p>
      )}
    </Form>
  )
}
