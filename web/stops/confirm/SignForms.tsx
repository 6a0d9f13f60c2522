import { skipToken, useQuery, useQueryClient } from '@tanstack/react-query'
import { sightOf } from '#core/roles'
import { MAKING_STEPS, routes, type IssueHead, type MakingStep, type Me } from '#contract'
import { call } from '../../api/client'
import { useDecidedCourse } from '../../course/course'
import { makingKey } from '../../course/events'
import { counted } from '../../parts/format'
import { StatementForm } from './StatementForm'
import styles from './confirm.module.css'

/** The signature that freezes the results. */
export function Sign({ blocking, open }: { blocking: boolean; open: number }) {
  const { id, table, adopted, mayDecide } = useDecidedCourse()
  const queries = useQueryClient()
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
        doing={<Making />}
        primary
        disabled={blocking}
        onSend={(statement) => {
          queries.removeQueries({ queryKey: makingKey(id) })
          return call(routes.confirm, { params: { courseId: id }, body: { statement } })
        }}
      />
    </section>
  )
}

/** How far the issue is that is being made. */
function Making() {
  const { id } = useDecidedCourse()
  const { data: step } = useQuery<MakingStep>({ queryKey: makingKey(id), queryFn: skipToken })
  const at = step ? MAKING_STEPS.indexOf(step) : 0
  return (
    <div className={styles.making}>
      <progress value={at} max={MAKING_STEPS.length} aria-label="Making the issue" />
      <span role="status">
        {MAKING_STEPS[at]}, {at + 1} of {MAKING_STEPS.length}
      </span>
    </div>
  )
}

/** Who has signed the latest issue, and who may still. */
export function SecondSignature({ issue }: { issue: IssueHead }) {
  const { id, table } = useDecidedCourse()
  const queries = useQueryClient()
  const me = queries.getQueryData<Me>(['me'])
  const signed = issue.signatures.some((s) => s.by === me?.name)
  const asked = issue.waitsFor.includes(table.head.role)
  const names = issue.signatures.map((s) => s.by).join(' and ')
  return (
    <section>
      <h2>Signatures</h2>
      {issue.waitsFor.length === 0 ? (
        <p>Signed by {names}.</p>
      ) : signed ? (
        <p className="soft">
          Signed by you. {issue.waitsFor.includes('external') ? 'The external moderator' : 'Another lead'} signs here after you.
        </p>
      ) : asked ? (
        <StatementForm
          id="second-statement"
          words="I have looked at it and sign that"
          action="Sign too"
          primary
          onSend={(statement) =>
            call(routes.countersign, { params: { courseId: id, number: issue.number }, body: { statement, hash: issue.hash } })
          }
        />
      ) : (
        <p className="soft">Signed by {names}. Your signature is not asked for.</p>
      )}
    </section>
  )
}

/** Opens the course again; the issue stays what it is. */
export function Reopen({ issue }: { issue: IssueHead }) {
  const { id, table } = useDecidedCourse()
  if (!sightOf(table.head.role).decides) return null
  return (
    <section>
      <h2>Reopen</h2>
      <p className="soft small">
        Issue {issue.number} stays as it is{issue.inForce && ', and in force until the next one is signed'}. What you confirm next becomes
        issue {issue.number + 1}, and the two can be compared. {issue.signatures.map((s) => s.by).join(', ')} signed this one.
      </p>
      <StatementForm
        id="reopen-reason"
        words="Reopen it, because"
        action="Reopen"
        onSend={(reason) => call(routes.reopen, { params: { courseId: id }, body: { reason } })}
      />
    </section>
  )
}
