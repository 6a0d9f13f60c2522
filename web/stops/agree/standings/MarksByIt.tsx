import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { percentsInProportion } from '#core/outcomes'
import { routes, type ByStanding, type CourseOutcome } from '#contract'
import { call } from '../../../api/client'
import { useCourse } from '../../../course/course'
import { NumberField } from '../../../parts/NumberField'
import { counted } from '../../../parts/format'
import { ask } from '../../../saving/ask'
import { useWrites, WriteProblem } from '../../../saving/writes'

/** Assessments whose marks are where students stand on an outcome: each level is worth a percent, and the marks follow. */
export function MarksByIt({ outcome }: { outcome: CourseOutcome }) {
  const { id, table, mayDecide } = useCourse()
  const { write } = useWrites()
  const [adding, setAdding] = useState(false)
  const [said, setSaid] = useState('')
  const asked = useQuery({ queryKey: ['by standing', id], queryFn: () => call(routes.byStanding, { params: { courseId: id } }) })
  const all = asked.data ?? []
  const own = all.filter((b) => b.outcomeId === outcome.id)
  const title = (assessmentId: string) => table.assessments.find((a) => a.id === assessmentId)?.title ?? ''
  const free = table.assessments.filter((a) => a.marking === 'direct' && !all.some((b) => b.assessmentId === a.id))
  const [chosen, setChosen] = useState('')
  const [percents, setPercents] = useState(() => percentsInProportion(outcome.levels.length))
  const set = async (assessmentId: string, worth: number[]) => {
    const done = await write(
      `${title(assessmentId)} by standing`,
      ask(routes.markByStanding, { params: { courseId: id, assessmentId }, body: { outcomeId: outcome.id, percents: worth } }),
    )
    if (!done) return
    setSaid(
      `${counted(done.marks, 'mark')} of ${title(assessmentId)} ${done.marks === 1 ? 'was' : 'were'} written. They follow from now on.`,
    )
    setAdding(false)
    await asked.refetch()
  }
  const byHand = async (b: ByStanding) => {
    const done = await write(
      `${title(b.assessmentId)} by hand`,
      ask(routes.markByHand, { params: { courseId: id, assessmentId: b.assessmentId } }),
      () =>
        ask(routes.markByStanding, {
          params: { courseId: id, assessmentId: b.assessmentId },
          body: { outcomeId: b.outcomeId, percents: b.percents },
        }),
    )
    if (done === null) return
    setSaid(`${title(b.assessmentId)} is marked by hand again; its marks stay as they are.`)
    await asked.refetch()
  }
  const worthInWords = (worth: readonly number[]) => outcome.levels.map((l, i) => `${l.label} ${worth[i] ?? 0}%`).join(', ')
  return (
    <section aria-label="Marks by it">
      <h2>Marks by it</h2>
      <WriteProblem />
      {own.map((b) => (
        <p key={b.assessmentId} className="mb-1">
          <b>{title(b.assessmentId)}</b> is marked by it: <span className="soft">{worthInWords(b.percents)}</span>{' '}
          {mayDecide && (
            <Button
              size="sm"
              variant="link"
              className="p-0"
              aria-label={`Mark ${title(b.assessmentId)} by hand again`}
              onClick={() => void byHand(b)}
            >
              by hand again
            </Button>
          )}
        </p>
      ))}
      {own.length === 0 && !adding && <p className="soft mb-1">No assessment is marked by where students stand on it.</p>}
      {mayDecide && !adding && free.length > 0 && (
        <Button size="sm" variant="link" className="p-0" onClick={() => setAdding(true)}>
          Mark an assessment by it…
        </Button>
      )}
      {adding && (
        <Form
          onSubmit={(e) => {
            e.preventDefault()
            void set(chosen || free[0]!.id, percents)
          }}
        >
          <Form.Select
            size="sm"
            autoFocus
            aria-label="Assessment to mark by it"
            value={chosen || free[0]?.id}
            onChange={(e) => setChosen(e.target.value)}
          >
            {free.map((a) => (
              <option key={a.id} value={a.id}>
                {a.title}
              </option>
            ))}
          </Form.Select>
          <dl className="fields mt-1 mb-1">
            {outcome.levels.map((l, i) => (
              <div key={l.label} className="d-flex gap-2 align-items-baseline">
                <dt>{l.label}</dt>
                <dd className="d-flex mb-0">
                  <NumberField
                    label={`Percent for ${l.label}`}
                    className="short"
                    value={percents[i]!}
                    min={0}
                    max={100}
                    onCommit={(p) => p !== null && setPercents(percents.map((x, k) => (k === i ? p : x)))}
                  />
                  <span className="soft">%</span>
                </dd>
              </div>
            ))}
          </dl>
          <p className="soft small mb-1">
            Marks that stand there are written over, and kept in their history. Who has not enough evidence is pending.
          </p>
          <div className="d-flex gap-2">
            <Button size="sm" type="submit">
              Mark it so
            </Button>
            <Button size="sm" variant="link" onClick={() => setAdding(false)}>
              Not now
            </Button>
          </div>
        </Form>
      )}
      <p role="status" className={said === '' ? 'visually-hidden' : 'small mb-0'}>
        {said}
      </p>
    </section>
  )
}
