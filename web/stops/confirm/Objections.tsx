import { Button } from 'react-bootstrap'
import { routes, type IssueHead } from '#contract'
import { call } from '../../api/client'
import { useDecidedCourse } from '../../course/course'
import { useSaved } from '../../saving/saved'
import { shownAt } from '../../parts/format'
import { StatementForm } from './StatementForm'
import { useIssues } from './useIssues'

/** What somebody has against an issue; while one stands, the issue does not count. */
export function Objections({ issue }: { issue: IssueHead }) {
  const { id } = useDecidedCourse()
  const { again } = useIssues()
  const { saving } = useSaved()
  const params = { courseId: id, number: issue.number }
  return (
    <section>
      <h2>Objections</h2>
      {issue.objections.map((o) => (
        <p key={o.id} className={`note ${o.takenBack ? '' : 'warn'}`}>
          {o.by}, {o.role}, {shownAt(o.at, 'd MMM')}: {o.reason}{' '}
          {o.takenBack ? (
            <span className="soft">taken back {shownAt(o.takenBack, 'd MMM')}</span>
          ) : (
            o.own && (
              <Button
                size="sm"
                variant="link"
                className="p-0"
                onClick={() => void saving(call(routes.takeBackObjection, { params: { ...params, objectionId: o.id } })).then(again)}
              >
                Take it back
              </Button>
            )
          )}
        </p>
      ))}
      <StatementForm
        id="objection-reason"
        words="I object, because"
        action="Object"
        onSend={(reason) => call(routes.object, { params, body: { reason } })}
      />
    </section>
  )
}
