import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { Link } from 'react-router'
import { routes, type CourseOutcome, type CourseOutcomes } from '#contract'
import { call, messageOf } from '../../../api/client'
import { useDecidedCourse, useOutcomeFigures } from '../../../course/course'
import { useSaved } from '../../../saving/saved'
import { usePersonLabels } from '../../../settings/names'
import { DateField } from '../../../parts/DateField'
import { shownDay, today } from '../../../parts/format'
import { ruleInWords } from '../outcome-words'

import { EvidenceScript } from './EvidenceScript'
import styles from './standings.module.css'
interface Props {
  studentId: string
  outcome: CourseOutcome
  given: CourseOutcomes
  stamp: number
  onChanged: () => Promise<void>
  onClose: () => void
}

/** One student on one outcome: every result with where it comes from, and results noted by hand. */
export function StudentEvidence({ studentId, outcome, given, stamp, onChanged, onClose }: Props) {
  const { id, table, mayDecide } = useDecidedCourse()
  const label = usePersonLabels(table.students)
  const { saving } = useSaved()
  const evidence = useOutcomeFigures('evidence', given, stamp, { studentId, outcomeId: outcome.id })
  const [problem, setProblem] = useState<string | null>(null)
  const [level, setLevel] = useState(outcome.reached)
  const [day, setDay] = useState(today())
  const [note, setNote] = useState('')
  const title = new Map(table.assessments.map((a) => [a.id, a.title]))
  const linkOf = (assessmentId: string, criterionId: string | null) =>
    given.links.find((l) => l.assessmentId === assessmentId && l.criterionId === criterionId)?.title
  const does = async (work: Promise<unknown>) => {
    setProblem(null)
    try {
      await saving(work)
      await onChanged()
      return true
    } catch (e) {
      setProblem(messageOf(e))
      return false
    }
  }
  const params = { courseId: id, outcomeId: outcome.id }
  const add = async () => {
    if (await does(call(routes.typeEvidence, { params, body: { studentId, level, day, note } }))) setNote('')
  }
  return (
    <>
      <section>
        <h2>
          <Link to={`/courses/${id}/students/${studentId}`}>{label(studentId)}</Link>
        </h2>
        <p className="mb-1">
          {outcome.title}: <span className="soft">{ruleInWords(outcome.rule)}</span>{' '}
          <button className="quiet-button" onClick={onClose}>
            back to everybody
          </button>
        </p>
        {evidence?.length === 0 && <p className="soft">Nothing was seen of it yet.</p>}
        <ul className={`people ${styles.evidence}`}>
          {evidence?.map((e, i) => (
            <li key={e.typed?.id ?? `${e.scriptId} ${e.criterionId} ${i}`}>
              <span className="soft number">{e.day ? shownDay(e.day) : 'no day'}</span>
              <b>{outcome.levels[e.level - 1]?.label}</b>
              <span>
                {e.typed ? (
                  <>
                    {e.typed.note} <span className="soft small">noted by {e.typed.by}</span>{' '}
                    {mayDecide && (
                      <Button
                        size="sm"
                        variant="link"
                        className="p-0"
                        onClick={() => void does(call(routes.takeBackEvidence, { params: { ...params, evidenceId: e.typed!.id } }))}
                      >
                        take it back
                      </Button>
                    )}
                  </>
                ) : (
                  <>
                    {title.get(e.assessmentId!)} <span className="soft small">{linkOf(e.assessmentId!, e.criterionId)}</span>{' '}
                    <EvidenceScript
                      scriptId={e.scriptId!}
                      studentId={studentId}
                      assessmentId={e.assessmentId!}
                      title={title.get(e.assessmentId!) ?? ''}
                    />
                  </>
                )}
              </span>
            </li>
          ))}
        </ul>
      </section>
      {mayDecide && (
        <section>
          <h2>Note a result</h2>
          <p className="soft small">
            A conversation, a check in class: it counts like any other result, on its day, and says who noted it.
          </p>
          <Form
            className={styles.noteResult}
            onSubmit={(e) => {
              e.preventDefault()
              void add()
            }}
          >
            <Form.Select size="sm" aria-label="Level seen" value={level} onChange={(e) => setLevel(Number(e.target.value))}>
              {outcome.levels.map((l, i) => (
                <option key={l.label} value={i + 1}>
                  {l.label}
                </option>
              ))}
            </Form.Select>
            <DateField label="Day it was seen" value={day} onCommit={setDay} />
            <Form.Control
              as="textarea"
              size="sm"
              rows={2}
              aria-label="What it rests on"
              placeholder="what it rests on"
              maxLength={2000}
              value={note}
              onChange={(e) => setNote(e.target.value)}
            />
            <Button size="sm" type="submit" disabled={note.trim() === '' || day === ''}>
              Note it
            </Button>
          </Form>
        </section>
      )}
      {problem && (
        <p className="note bad" role="alert">
          {problem}
        </p>
      )}
    </>
  )
}
