import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { Link } from 'react-router'
import { currentSection, StayError } from '#core/roll'
import type { Plan, Roll, RollStudent } from '#contract'
import { useNames, usePersonLabels } from '../../../settings/names'
import { TitleField } from '../../../parts/TitleField'
import { dayFor, type RollEdits } from './edits'
import { DateField } from '../../../parts/DateField'
import { shownDay } from '../../../parts/format'

const shortDay = (day: string) => shownDay(day, 'd MMM yyyy')

/** One student: who, where and since when; moved, withdrawn or brought back from a day on. */
export function StudentCloseUp({ student: s, roll, plan, edits }: { student: RollStudent; roll: Roll; plan: Plan; edits: RollEdits }) {
  const { mayEdit } = edits
  const { shown } = useNames()
  const label = usePersonLabels(roll.students)
  const now = currentSection(s.stays)
  const others = roll.sections.filter((x) => x.id !== now)
  const [to, setTo] = useState(now === null ? (s.stays.at(-1)?.sectionId ?? '') : (others[0]?.id ?? ''))
  const [from, setFrom] = useState(dayFor(plan.head))
  const [problem, setProblem] = useState<string | null>(null)
  const name = (id: string) => roll.sections.find((x) => x.id === id)?.name ?? ''
  const move = (sectionId: string | null) => {
    setProblem(null)
    try {
      void edits.move(s, sectionId, from)
    } catch (e) {
      if (!(e instanceof StayError)) throw e
      setProblem(e.message)
    }
  }
  return (
    <>
      <section>
        <h2>{label(s.id)}</h2>
        <dl className="fields">
          {shown === 'names' && (
            <>
              <dt>name</dt>
              <dd>
                <TitleField
                  label={`Name of candidate ${s.candidate}`}
                  value={s.name}
                  disabled={!mayEdit}
                  onCommit={(n) => void edits.editStudent(s, { name: n })}
                />
              </dd>
            </>
          )}
          <dt>candidate</dt>
          <dd>
            <TitleField
              label={`Candidate number of ${label(s.id)}`}
              value={s.candidate}
              disabled={!mayEdit}
              onCommit={(candidate) => void edits.editStudent(s, { candidate })}
            />
          </dd>
          <dt>external id</dt>
          <dd>
            <TitleField
              label={`External id of ${label(s.id)}`}
              value={s.externalId ?? ''}
              disabled={!mayEdit}
              onCommit={(externalId) => void edits.editStudent(s, { externalId })}
            />
          </dd>
          <dt>comes in as</dt>
          <dd>
            <TitleField
              label={`Sign-in or mail address of ${label(s.id)}`}
              value={s.signIn ?? ''}
              placeholder={s.externalId ?? 'no sign-in'}
              optional
              disabled={!mayEdit}
              onCommit={(signIn) => void edits.editStudent(s, { signIn: signIn === '' ? null : signIn })}
            />
          </dd>
        </dl>
        {now !== null && <Link to={`/courses/${plan.head.id}/students/${s.id}`}>All their work, and why this grade</Link>}
      </section>
      <section>
        <h2>Sections</h2>
        <table className="grid">
          <tbody>
            {s.stays.map((stay) => (
              <tr key={`${stay.sectionId} ${stay.from}`}>
                <td>{name(stay.sectionId)}</td>
                <td className="soft">
                  {shortDay(stay.from)} {stay.to === null ? 'on' : `to ${shortDay(stay.to)}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {now === null && <p className="ochre mt-1 mb-0">Left. Their work stays where it is.</p>}
      </section>
      {mayEdit && (
        <section>
          <h2>{now === null ? 'Bring back' : 'Move or withdraw'}</h2>
          <div className="d-flex gap-2 align-items-baseline flex-wrap">
            <label htmlFor="move-from" className="soft">
              from
            </label>
            <DateField id="move-from" value={from} term={plan.head} onCommit={setFrom} />
            <label htmlFor="move-to" className="soft">
              in
            </label>
            <Form.Select id="move-to" size="sm" value={to} onChange={(e) => setTo(e.target.value)}>
              {others.map((x) => (
                <option key={x.id} value={x.id}>
                  {x.name}
                </option>
              ))}
            </Form.Select>
          </div>
          <div className="buttons mt-2">
            <Button size="sm" disabled={to === '' || from === ''} onClick={() => move(to)}>
              {now === null ? 'Bring back' : `Move to ${name(to)}`}
            </Button>
            {now !== null && (
              <Button size="sm" variant="outline-primary" disabled={from === ''} onClick={() => move(null)}>
                Withdraw
              </Button>
            )}
          </div>
          {problem && (
            <p className="note bad" role="alert">
              {problem}
            </p>
          )}
          <p className="soft small mt-2">
            Marks and readings stay. An assessment applies where the student was in its section on the day it was due.
          </p>
        </section>
      )}
    </>
  )
}
