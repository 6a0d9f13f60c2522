import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { sightOf } from '#core/roles'
import { routes, type IssueHead, type Me } from '#contract'
import { call, messageOf } from '../../api/client'
import { useCourse } from '../../course/course'
import { useDraft } from '../../saving/drafts'
import { useSaved } from '../../saving/saved'
import { counted } from '../../parts/format'

function StatementForm({
  id,
  words,
  action,
  disabled,
  onSend,
  primary,
}: {
  id: string
  words: string
  action: string
  disabled?: boolean
  onSend: (statement: string) => Promise<unknown>
  primary?: boolean
}) {
  const { refresh } = useCourse()
  const { saving } = useSaved()
  const { id: courseId } = useCourse()
  const [text, setText, drop] = useDraft(`statement ${courseId} ${id}`)
  const [problem, setProblem] = useState<string | null>(null)
  const send = async () => {
    setProblem(null)
    try {
      await saving(onSend(text.trim()))
      drop()
      await refresh()
    } catch (e) {
      setProblem(messageOf(e))
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
      <Button type="submit" className="mt-2" variant={primary ? 'primary' : 'outline-primary'} disabled={disabled || text.trim() === ''}>
        {action}
      </Button>
      {problem && (
        <p className="note bad" role="alert">
          {problem}
        </p>
      )}
    </Form>
  )
}

/** The signature that freezes the results. */
export function Sign({ blocking, open }: { blocking: boolean; open: number }) {
  const { id, table, adopted, mayDecide } = useCourse()
  const graded = adopted.students.filter((s) => s.grade !== null).length
  if (!mayDecide) return <p className="soft">Whoever leads the course signs here.</p>
  return (
    <section>
      <h2>Sign</h2>
      <p>
        {blocking
          ? 'What must be cleared first is listed on the left, each with a way to it.'
          : `${counted(graded, 'result')} with a grade, ${table.students.length - graded} without, become the next issue: frozen, numbered, and the same for everyone who holds it.${open > 0 ? ` ${open} open things stay open in it.` : ''}`}
      </p>
      <StatementForm
        id="sign-statement"
        words="I sign that"
        action="Sign and freeze"
        primary
        disabled={blocking}
        onSend={(statement) => call(routes.confirm, { params: { courseId: id }, body: { statement } })}
      />
    </section>
  )
}

/** Second signature and reopening of the issue in force. */
export function Reopen({ issue }: { issue: IssueHead }) {
  const { id, table } = useCourse()
  const queries = useQueryClient()
  const me = queries.getQueryData<Me>(['me'])
  const signed = issue.signatures.some((s) => s.by === me?.name)
  return (
    <>
      <section>
        <h2>Second signature</h2>
        {issue.signatures.length > 1 ? (
          <p>Signed by {issue.signatures.map((s) => s.by).join(' and ')}.</p>
        ) : signed ? (
          <p className="soft">Signed by you. A second person, the external moderator say, signs here after you.</p>
        ) : (
          <StatementForm
            id="second-statement"
            words="I have looked at it and sign that"
            action="Sign too"
            primary
            onSend={(statement) => call(routes.countersign, { params: { courseId: id, number: issue.number }, body: { statement, hash: issue.hash } })}
          />
        )}
      </section>
      {sightOf(table.head.role).decides && (
        <section>
          <h2>Reopen</h2>
          <p className="soft small">
            Issue {issue.number} stays as it is. What you confirm next becomes issue {issue.number + 1}, and the two can be compared.
          </p>
          <StatementForm
            id="reopen-reason"
            words="Reopen it, because"
            action="Reopen"
            onSend={(reason) => call(routes.reopen, { params: { courseId: id }, body: { reason } })}
          />
        </section>
      )}
    </>
  )
}
