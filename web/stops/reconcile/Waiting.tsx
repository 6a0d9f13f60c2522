import { Button } from 'react-bootstrap'
import { routes, type AskedReading } from '#contract'
import { useDecidedCourse } from '../../course/course'
import { shownAt } from '../../parts/format'
import { ask } from '../../saving/ask'
import { useWrites } from '../../saving/writes'
import { KeyCap } from '../../settings/KeyCap'

interface Props {
  courseId: string
  asked: readonly AskedReading[]
  /** Null for whoever only looks on. */
  onAsk: (() => void) | null
}

/** Further readings of a script: those that were asked for, and the way to ask for one. */
export function Waiting({ courseId, asked, onAsk }: Props) {
  const { table } = useDecidedCourse()
  const { write } = useWrites()
  const name = (id: string) => table.markers.find((m) => m.id === id)?.name ?? id
  const takeBack = ({ assessmentId, studentId, markerId, because }: AskedReading) =>
    void write(
      'no longer ask for a reading',
      ask(routes.takeBackAsked, { params: { courseId, assessmentId, studentId, markerId } }),
      () =>
        ask(routes.askForReadings, { params: { courseId }, body: { because, wanted: [{ assessmentId, studentId, markerId }] } }) as never,
    )
  if (asked.length === 0 && !onAsk) return null
  return (
    <section>
      {asked.map((a) => (
        <p key={a.markerId} className="mb-1">
          <b>{name(a.markerId)}</b>{' '}
          {a.state === 'handed in' ? 'has read it since' : a.state === 'begun' ? 'has begun to read it' : 'is asked to read it'}{' '}
          <span className="soft small">
            {a.because}, {shownAt(a.askedAt, 'd MMM, HH:mm')}
          </span>
          {a.state === 'waiting' && onAsk && (
            <button className="quiet-button ms-2" onClick={() => takeBack(a)}>
              No longer
            </button>
          )}
        </p>
      ))}
      {onAsk && (
        <Button size="sm" variant="outline-primary" onClick={onAsk}>
          Ask for a further reading <KeyCap cap="a" />
        </Button>
      )}
    </section>
  )
}
