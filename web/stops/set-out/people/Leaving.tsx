import { useQuery } from '@tanstack/react-query'
import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import { routes, type CoursePerson } from '#contract'
import { call, messageOf } from '../../../api/client'
import { counted } from '../../../parts/format'

/** What taking a part away does, in figures: what they leave unread, and who reads it then. */
export function Leaving({
  person: p,
  courseId,
  onTake,
  onKeep,
}: {
  person: CoursePerson
  courseId: string
  onTake: () => void
  onKeep: () => void
}) {
  const open = p.toRead > 0
  const over = useQuery({
    queryKey: ['course people', courseId, 'hand over', p.id],
    queryFn: () => call(routes.tryHandOver, { params: { courseId, personId: p.id } }),
    enabled: open,
    staleTime: 0,
  })
  const { why = null, assessments = [] } = over.data ?? {}
  const may = !open || (over.data !== undefined && why === null)
  return (
    <div className="note mt-2" role="group" aria-label={`Take the part of ${p.name} away`}>
      {open && (
        <>
          <p className="mb-1" role="status">
            {counted(p.toRead, 'script')} {p.toRead === 1 ? 'is' : 'are'} shared out to {p.name} and not handed in.{' '}
            {over.error && messageOf(over.error)}
            {why !== null && (
              <>
                {why} <Link to={`/courses/${courseId}/mark/sharing-out`}>To sharing out</Link>
              </>
            )}
            {assessments.length > 0 && 'They would go to:'}
          </p>
          {assessments.length > 0 && (
            <ul className="mb-1">
              {assessments.map((a) => (
                <li key={a.id}>
                  {a.title}: {a.to.map((t) => `${t.name} ${t.scripts}`).join(', ')}
                  {a.begun > 0 && <span className="soft"> · {a.begun} begun, kept as it is</span>}
                </li>
              ))}
            </ul>
          )}
        </>
      )}
      <p className="mb-1">
        {p.name} sees nothing of this course any more
        {p.teaches.length > 0 && `, and ${p.teaches.join(', ')} ${p.teaches.length === 1 ? 'has' : 'have'} no teacher`}. What they read,
        wrote and decided stays.
      </p>
      {may && (
        <Button size="sm" onClick={onTake} autoFocus>
          {open ? 'Hand them over, and take it away' : 'Take it away'}
        </Button>
      )}{' '}
      <Button size="sm" variant="link" onClick={onKeep}>
        Leave it
      </Button>
    </div>
  )
}
