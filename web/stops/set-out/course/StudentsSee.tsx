import { useQuery } from '@tanstack/react-query'
import { Form } from 'react-bootstrap'
import { routes, type Plan, type StudentView, type StudentViewChange } from '#contract'
import { call } from '../../../api/client'
import { problemOf } from '../../../api/problem-of'
import { useTrial } from '../../../course/trial'
import { NumberField } from '../../../parts/NumberField'
import { ask } from '../../../saving/ask'
import { useWrites } from '../../../saving/writes'
import styles from '../people/people.module.css'

/** What students see beyond marks that are out, and what they may do. */
export function StudentsSee({ plan }: { plan: Plan }) {
  const { courseId, mayDecide } = useTrial()
  const { write } = useWrites()
  const view = useQuery({ queryKey: ['student view', courseId], queryFn: () => call(routes.studentView, { params: { courseId } }) })
  const problem = problemOf(view)
  if (problem) return <p className="note bad">{problem}</p>
  if (!view.data) return null
  const { soFar, askDays, handIn } = view.data
  const set = (change: StudentViewChange, words: string, now: StudentView) => {
    const send = (body: StudentViewChange) => ask(routes.setStudentView, { params: { courseId }, body })
    void write(words, send(change), () => send(before(change, now)))
  }
  return (
    <section>
      <h2>What students see and may do</h2>
      <Form.Check
        id="so-far"
        label="see the course so far, and what they would need"
        checked={soFar}
        disabled={!mayDecide}
        onChange={(e) => set({ soFar: e.target.checked }, 'the course so far', view.data)}
      />
      <div className="d-flex align-items-baseline gap-1 my-1 text-nowrap">
        <Form.Check
          id="may-ask"
          label="ask about a mark that is out, for"
          checked={askDays !== null}
          disabled={!mayDecide}
          onChange={(e) => set({ askDays: e.target.checked ? 14 : null }, 'asking about marks', view.data)}
        />
        <span className={styles.daysField}>
          <NumberField
            label="Days for asking"
            value={askDays}
            optional
            min={1}
            max={90}
            disabled={!mayDecide || askDays === null}
            onCommit={(days) => set({ askDays: days === null ? null : Math.round(days) }, 'days for asking', view.data)}
          />
        </span>
        <span className={askDays === null ? 'soft' : undefined}>days</span>
      </div>
      <fieldset>
        <legend className="soft small mb-1">hand in here, as text or PDF</legend>
        <div className={styles.handInList}>
          {plan.assessments.map((a) => (
            <Form.Check
              key={a.id}
              id={`hand-in-${a.id}`}
              label={a.title}
              checked={handIn.includes(a.id)}
              disabled={!mayDecide}
              onChange={(e) => set({ assessmentId: a.id, handedIn: e.target.checked }, `handing in ${a.title}`, view.data)}
            />
          ))}
        </div>
      </fieldset>
      <p className="soft small">
        When a mark is out is said at placements; whether remarks and levels are shown with it, where each is attached; outcomes, at Agree,
        standings.
      </p>
    </section>
  )
}

/** What sets it back to what it was. */
function before(change: StudentViewChange, now: StudentView): StudentViewChange {
  if ('soFar' in change) return { soFar: now.soFar }
  if ('askDays' in change) return { askDays: now.askDays }
  return { assessmentId: change.assessmentId, handedIn: now.handIn.includes(change.assessmentId) }
}
