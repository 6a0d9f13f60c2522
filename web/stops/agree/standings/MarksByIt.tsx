import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { routes, type ByStanding, type CourseOutcome, type LevelsWorth } from '#contract'
import { call } from '../../../api/client'
import { useDecidedCourse } from '../../../course/course'
import { counted } from '../../../parts/format'
import { ask } from '../../../saving/ask'
import { useWrites, WriteProblem } from '../../../saving/writes'
import { useLibrary } from '../library'
import { byScale, inProportion, LevelsWorthFields } from './LevelsWorthFields'

/** Assessments whose marks are where students stand on an outcome: each level is worth a percent, and the marks follow. */
export function MarksByIt({ outcome }: { outcome: CourseOutcome }) {
  const { id, table, mayDecide } = useDecidedCourse()
  const { write } = useWrites()
  const [adding, setAdding] = useState(false)
  const [said, setSaid] = useState('')
  const asked = useQuery({ queryKey: ['by standing', id], queryFn: () => call(routes.byStanding, { params: { courseId: id } }) })
  const all = asked.data ?? []
  const own = all.filter((b) => b.outcomeId === outcome.id)
  const title = (assessmentId: string) => table.assessments.find((a) => a.id === assessmentId)?.title ?? ''
  const free = table.assessments.filter(
    (a) => (a.marking === 'direct' || a.marking === 'judgement') && !all.some((b) => b.assessmentId === a.id),
  )
  const [chosen, setChosen] = useState('')
  const assessment = free.find((a) => a.id === chosen) ?? free[0]
  const scales = useLibrary(id).data?.scales.filter((s) => !s.superseded && s.labels.length > 0) ?? []
  const ownScale = scales.find((s) => s.id === assessment?.standardId)
  const [typed, setWorth] = useState<LevelsWorth | null>(null)
  // What is judged by a scale is read off that scale, unless somebody says otherwise.
  const worth = typed ?? (ownScale ? byScale(outcome.levels, ownScale) : inProportion(outcome.levels))
  const set = async (assessmentId: string) => {
    const done = await write(
      `${title(assessmentId)} by standing`,
      ask(routes.markByStanding, { params: { courseId: id, assessmentId }, body: { outcomeId: outcome.id, worth } }),
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
          body: { outcomeId: b.outcomeId, worth: b.worth },
        }),
    )
    if (done === null) return
    setSaid(`${title(b.assessmentId)} is marked by hand again; its marks stay as they are.`)
    await asked.refetch()
  }
  const worthInWords = ({ percents, scale }: ByStanding) =>
    outcome.levels.map((l, i) => `${l.label} ${scale ? `${scale.labels[i]} ` : ''}${percents[i] ?? 0}%`).join(', ')
  return (
    <section aria-label="Marks by it">
      <h2>Marks by it</h2>
      <WriteProblem />
      {own.map((b) => (
        <p key={b.assessmentId} className="mb-1">
          <b>{title(b.assessmentId)}</b> is marked by it:{' '}
          <span className="soft">
            {b.scale && `${b.scale.title}: `}
            {worthInWords(b)}
          </span>{' '}
          {b.percents.length !== outcome.levels.length && (
            <span className="ochre d-block">
              It has {counted(outcome.levels.length, 'level')} now, and {b.percents.length} are worth something: marks stay as they are
              until you mark it by hand again and then by it anew.
            </span>
          )}
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
            if (assessment) void set(assessment.id)
          }}
        >
          <Form.Select
            size="sm"
            autoFocus
            aria-label="Assessment to mark by it"
            value={assessment?.id}
            onChange={(e) => setChosen(e.target.value)}
          >
            {free.map((a) => (
              <option key={a.id} value={a.id}>
                {a.title}
              </option>
            ))}
          </Form.Select>
          <LevelsWorthFields levels={outcome.levels} scales={scales} worth={worth} onWorth={setWorth} />
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
