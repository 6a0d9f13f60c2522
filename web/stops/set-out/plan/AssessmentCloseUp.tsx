import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { SectionWeights } from '#core/grades'
import { MARKINGS, wayTitle } from '#core/marking'
import { routes, type Assessment, type Marking, type Plan } from '#contract'
import { addressOf } from '../../../api/client'
import { fixed, numeral } from '../../../parts/format'
import { useTyped } from '../../../parts/useTyped'
import { NumberField } from '../../../parts/NumberField'
import type { PlanEdits } from './edits'

interface Props {
  assessment: Assessment
  decided: Plan
  edits: PlanEdits
  weights: SectionWeights[]
  onCopy: () => void
  onClose: () => void
}

/** All there is to say of one assessment, and what can be done with it as a whole. */
export function AssessmentCloseUp({ assessment: a, decided, edits, weights, onCopy, onClose }: Props) {
  const { plan, mayDecide } = edits
  const away = edits.takenAway.has(a.id)
  const saveNotes = (words: string) => words !== a.notes && void edits.editAssessment(a, { notes: words })
  const notes = useTyped(a.notes, saveNotes)
  return (
    <>
      <section>
        <div className="d-flex justify-content-between align-items-baseline">
          <h2>{a.title}</h2>
          <button className="quiet-button" onClick={onClose}>
            close <kbd>Esc</kbd>
          </button>
        </div>
        <dl className="fields">
          <dt>
            <label htmlFor="of-component">component</label>
          </dt>
          <dd>
            <Form.Select
              id="of-component"
              size="sm"
              value={a.componentId}
              disabled={!mayDecide}
              onChange={(e) => edits.count(a, { componentId: e.target.value })}
            >
              {plan.components.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.title}
                </option>
              ))}
            </Form.Select>
          </dd>
          <dt>
            <label htmlFor="of-marking">how it is marked</label>
          </dt>
          <dd>
            <Form.Select
              id="of-marking"
              size="sm"
              value={a.marking}
              disabled={!mayDecide}
              onChange={(e) => void edits.editAssessment(a, { marking: e.target.value as Marking })}
            >
              {MARKINGS.map((value) => (
                <option key={value} value={value}>
                  {wayTitle(value)}
                </option>
              ))}
            </Form.Select>
          </dd>
          <dt>readings wanted</dt>
          <dd>
            <NumberField
              label={`Readings wanted of ${a.title}`}
              className="short"
              value={a.readingsWanted}
              min={1}
              max={9}
              disabled={!mayDecide}
              onCommit={(n) => n !== null && void edits.editAssessment(a, { readingsWanted: n })}
            />
          </dd>
          <dt>tolerance</dt>
          <dd>
            <NumberField
              label={`Tolerance of ${a.title}`}
              className="short"
              value={a.tolerance}
              min={0}
              max={a.outOf}
              disabled={!mayDecide}
              onCommit={(t) => t !== null && void edits.editAssessment(a, { tolerance: t })}
            />{' '}
            <span className="soft">marks between readings need no decision</span>
          </dd>
          <dt>worth</dt>
          <dd>
            <Form.Check
              id="of-follows"
              label={`goes with the maximum of ${numeral(a.outOf)}`}
              checked={a.worthFollows}
              disabled={!mayDecide || decided.hasMarks}
              onChange={(e) => void edits.editAssessment(a, { worthFollows: e.target.checked })}
            />
          </dd>
          <dt>in the component</dt>
          <dd className="d-flex gap-3">
            <Form.Check
              id="of-bonus"
              label="a bonus"
              checked={a.bonus}
              disabled={!mayDecide}
              onChange={(e) => edits.count(a, { bonus: e.target.checked })}
            />
            <Form.Check
              id="of-droppable"
              label="may be dropped"
              checked={a.droppable}
              disabled={!mayDecide}
              onChange={(e) => edits.count(a, { droppable: e.target.checked })}
            />
          </dd>
        </dl>
        <Form.Group controlId="of-notes" className="mt-2">
          <Form.Label className="soft small mb-0">Notes for those who set and mark it</Form.Label>
          <Form.Control
            as="textarea"
            rows={2}
            value={notes.text}
            maxLength={4000}
            disabled={!mayDecide}
            onChange={(e) => notes.type(e.target.value)}
            onBlur={() => {
              notes.sent()
              saveNotes(notes.text)
            }}
          />
        </Form.Group>
      </section>
      <CarriesBySection assessmentId={a.id} weights={weights} sections={decided.sections} />
      <section>
        <h2>Take it out</h2>
        <a href={addressOf(routes.assessmentPackage, { courseId: plan.head.id, assessmentId: a.id })} download>
          Data Package
        </a>{' '}
        <span className="soft small">what it is, what it is marked by, its marks and readings, by candidate numbers</span>
      </section>
      {mayDecide && (
        <section>
          <h2>Do with it</h2>
          <StartingMark assessment={a} edits={edits} />
          <div className="buttons mt-2">
            <Button variant="outline-primary" size="sm" onClick={onCopy}>
              Copy it…
            </Button>
            <Button variant="outline-primary" size="sm" disabled={away} onClick={() => edits.count(a, { counts: !a.counts })}>
              {a.counts ? 'Leave it out for everyone' : 'Let it count'}
            </Button>
            {away ? (
              <Button variant="outline-primary" size="sm" onClick={() => edits.keep(a)}>
                Keep it after all
              </Button>
            ) : (
              <Button variant="outline-primary" size="sm" onClick={() => edits.takeAway(a)}>
                Take it away
              </Button>
            )}
          </div>
          <p className="soft small mt-2">
            {decided.hasMarks
              ? 'What moves grades becomes a trial: the strip below says who moves before you adopt it. Marks are never deleted, and all of it can be withdrawn.'
              : 'Taken away, it can be brought back below the table.'}
          </p>
        </section>
      )}
    </>
  )
}

function StartingMark({ assessment: a, edits }: { assessment: Assessment; edits: PlanEdits }) {
  const [mark, setMark] = useState<number | null>(null)
  const [said, setSaid] = useState('')
  const give = async () => {
    if (mark === null) return
    const done = await edits.startingMark(a, mark)
    if (done) setSaid(`${done.given.length} were given ${numeral(mark)}; ${done.stood} had a mark or a status, which stands.`)
    setMark(null)
  }
  return (
    <>
      <div className="d-flex gap-2 align-items-baseline">
        <span>a starting mark of</span>
        <NumberField
          label={`Starting mark of ${a.title}`}
          className="short boxed"
          optional
          value={mark}
          min={0}
          max={a.outOf}
          onCommit={setMark}
        />
        <Button variant="outline-primary" size="sm" disabled={mark === null} onClick={() => void give()}>
          Give it to all without one
        </Button>
      </div>
      <p className="soft small mb-0" role="status">
        {said}
      </p>
    </>
  )
}

/** Where sections differ, what it carries in each. */
function CarriesBySection({
  assessmentId,
  weights,
  sections,
}: {
  assessmentId: string
  weights: SectionWeights[]
  sections: Plan['sections']
}) {
  const own = weights.map((s) => ({ sectionId: s.sectionId, share: s.weights.find((w) => w.assessmentId === assessmentId)?.share ?? null }))
  if (new Set(own.map((s) => s.share?.toFixed(6))).size <= 1) return null
  return (
    <section>
      <h2>What it carries, by section</h2>
      <table className="grid">
        <tbody>
          {own.slice(0, 30).map((s) => (
            <tr key={s.sectionId}>
              <td>{sections.find((x) => x.id === s.sectionId)?.name}</td>
              <td className="number">{s.share === null ? <span className="ochre">not set</span> : `${fixed(s.share * 100)} %`}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {own.length > 30 && <p className="soft small">and {own.length - 30} more sections</p>}
    </section>
  )
}
