import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { routes, type Pile } from '#contract'
import { call } from '../../../api/client'
import { counted, shownAt, shownDay, today } from '../../../parts/format'
import { Progress } from '../../../parts/Progress'

interface PilesProps {
  courseId: string
  piles: Pile[]
  /** Readings kept in this browser that the server did not take as they are. */
  unsent: readonly { assessmentId: string; studentId: string }[]
}

/** A marker's own start page: what is theirs to read, how far it is, and where to go on. */
export function Piles({ courseId, piles, unsent }: PilesProps) {
  if (piles.length === 0)
    return (
      <div className="empty">
        Nothing is shared out to you yet. What you are given to read will stand here, with the day by which it is wanted.
      </div>
    )
  const left = piles.reduce((n, p) => n + p.total - p.handedIn, 0)
  return (
    <>
      <p className="soft">{left === 0 ? 'All that is yours is handed in.' : `${counted(left, 'script')} to go.`}</p>
      <table className="grid piles">
        <thead>
          <tr>
            <th>assessment</th>
            <th>handed in</th>
            <th className="number">of</th>
            <th className="number">begun</th>
            <th>wanted by</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {piles.map((p) => (
            <tr key={p.assessmentId}>
              <td className="fw-semibold">{p.title}</td>
              <td>
                <Progress
                  of={p.total}
                  done={p.handedIn}
                  most={Math.max(...piles.map((x) => x.total))}
                  words={`${p.handedIn} of ${p.total} handed in`}
                />
                {p.handedIn}
              </td>
              <td className="number">{p.total}</td>
              <td className="number">{p.draft}</td>
              <td>
                {p.due ? (
                  <span className={p.due < today() && p.handedIn < p.total ? 'ochre' : ''}>{shownDay(p.due, 'EEE d MMM')}</span>
                ) : (
                  <span className="soft">no day</span>
                )}
              </td>
              <td className="text-end">
                {p.gate === 'held' && p.unreadExemplars > 0 ? (
                  <Link to={`/courses/${courseId}/agree/exemplars?of=${p.assessmentId}`}>
                    read {counted(p.unreadExemplars, 'exemplar')} first
                  </Link>
                ) : p.gate === 'held' ? (
                  <span className="ochre">held by the lead</span>
                ) : (
                  <Link
                    to={`/courses/${courseId}/mark/desk?of=${p.assessmentId}`}
                    aria-label={`${p.handedIn === p.total ? 'Look again' : 'Go on'}: ${p.title}`}
                  >
                    {p.handedIn === p.total ? 'look again' : 'go on'}
                  </Link>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {unsent.length > 0 && (
        <div role="alert" className="mt-3">
          <p className="ochre mb-1">
            {counted(unsent.length, 'reading')} kept in this browser {unsent.length === 1 ? 'is' : 'are'} not saved: changed in another
            window meanwhile, or refused. Open {unsent.length === 1 ? 'it' : 'each'} to see why and choose.
          </p>
          <ul className="list-unstyled mb-0">
            {unsent.map((u) => (
              <li key={`${u.assessmentId} ${u.studentId}`}>
                <Link to={`/courses/${courseId}/mark/desk?of=${u.assessmentId}&script=${u.studentId}`}>
                  {piles.find((p) => p.assessmentId === u.assessmentId)?.title ?? 'an assessment'}, a script begun here
                </Link>
              </li>
            ))}
          </ul>
        </div>
      )}
      <LookedAt courseId={courseId} />
    </>
  )
}

/** That somebody looked at the course as this marker is told to them. */
function LookedAt({ courseId }: { courseId: string }) {
  const { data } = useQuery({ queryKey: ['looks', courseId], queryFn: () => call(routes.looks, { params: { courseId } }) })
  const [last] = data ?? []
  if (!last) return null
  return (
    <p className="soft small mt-3">
      {last.by} looked at this course as you see it on {shownAt(last.at, 'd MMMM, HH:mm')}
      {data!.length > 1 && `, and ${data!.length - 1} times before`}. What you have begun and your stock of comments are not shown to who
      looks.
    </p>
  )
}
