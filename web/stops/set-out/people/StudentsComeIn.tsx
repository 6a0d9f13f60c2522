import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { routes, type Plan } from '#contract'
import { call } from '../../../api/client'
import { useTrial } from '../../../course/trial'
import { ask } from '../../../saving/ask'
import { useWrites } from '../../../saving/writes'
import { counted } from '../../../parts/format'

/** Lets the students of the roll in, in bulk, with what they will see said before. */
export function StudentsComeIn({ plan }: { plan: Plan }) {
  const { courseId } = useTrial()
  const { write } = useWrites()
  const access = useQuery({
    queryKey: ['student access', courseId],
    queryFn: () => call(routes.studentAccess, { params: { courseId } }),
  })
  const [asked, setAsked] = useState(false)
  const [done, setDone] = useState<string | null>(null)
  if (!access.data) return null
  const all = access.data
  const inside = all.filter((s) => s.state === 'in').length
  const invited = all.filter((s) => s.state === 'invited').length
  const ready = all.filter((s) => s.state === 'none' && s.signIn !== null)
  const without = all.filter((s) => s.state === 'none' && s.signIn === null).length
  const released = plan.assessments.filter((a) => a.counts).length
  const letIn = async () => {
    setAsked(false)
    const answer = await write(
      `let ${counted(ready.length, 'student')} in`,
      ask(routes.giveStudentsAccess, { params: { courseId }, body: { studentIds: ready.map((s) => s.studentId) } }),
    )
    if (answer)
      setDone(
        `${counted(answer.invited, 'student')} invited, ${answer.sent} by post` +
          (answer.known > 0 ? `; ${answer.known} had a way in already` : '') +
          '.',
      )
  }
  return (
    <section>
      <h2>Students who see their own work</h2>
      <p>
        {all.length === 0
          ? 'Nobody is on the roll yet.'
          : `${inside} of ${counted(all.length, 'student')} came in${invited > 0 ? `, ${invited} invited` : ''}.`}
        {without > 0 &&
          ` ${counted(without, 'student')} ${without === 1 ? 'has' : 'have'} neither sign-in, mail address nor external id on the roll: bring one in with it.`}
      </p>
      {ready.length > 0 && !asked && (
        <Button size="sm" variant="outline-primary" onClick={() => setAsked(true)}>
          Let {counted(ready.length, 'student')} in…
        </Button>
      )}
      {asked && (
        <div className="note" role="status">
          <p className="mb-1">
            Each of {counted(ready.length, 'student')} gets a one-time link, with what the roll has as sign-in (a sign-in or mail address;
            else the external id). They see their own name, section and due days, the rubrics that students may see, and of{' '}
            {counted(released, 'assessment')} the marks and remarks once each is released; nobody else’s, and no grade before it is
            released.
          </p>
          <Button size="sm" autoFocus onClick={() => void letIn()}>
            Let them in
          </Button>{' '}
          <Button size="sm" variant="link" onClick={() => setAsked(false)}>
            Not yet
          </Button>
        </div>
      )}
      {done && <p role="status">{done}</p>}
    </section>
  )
}
