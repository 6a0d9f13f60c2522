import { useDeferredValue, useMemo, useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { layOut } from '#core/roll'
import { readPlanLines, type PlanLine } from '#core/exchange/plan-lines'
import type { NewPlan, Plan } from '#contract'
import { Dialog, DialogTitle } from '../../../parts/Dialog'
import { counted, numeral, shownDay } from '../../../parts/format'

const EXAMPLE = 'Title; Component; Out of; Worth; Due\nQuiz 1; Quizzes 25%; 20; ; w3\nQuiz 2; ; 20; ; w6\nPaper; Exam 75%; 80; 100; 14 Dec'

/** A plan from pasted lines: what each would add is shown as it is typed. */
export function PastePlan({ plan, onAdd, onClose }: { plan: Plan; onAdd: (plan: NewPlan) => Promise<boolean>; onClose: () => void }) {
  const [text, setText] = useState('')
  const [busy, setBusy] = useState(false)
  const typed = useDeferredValue(text)
  const { head, components, assessments, away, sections } = plan
  const read = useMemo(
    () =>
      readPlanLines(
        typed,
        { components: components.map((c) => c.title), assessments: [...assessments, ...away].map((a) => a.title) },
        head,
      ),
    [typed, components, assessments, away, head],
  )
  const lines = read.lines.flatMap((l) => l.adds ?? [])
  const refused = read.lines.length - lines.length
  const dueOf = ({ due }: PlanLine) =>
    due
      ? layOut(
          due,
          sections.map((s) => ({ ...s, due: null })),
          head,
        )
      : null
  const add = async () => {
    setBusy(true)
    const done = await onAdd({
      components: read.components,
      assessments: lines.map((l) => ({
        title: l.title,
        component: l.component,
        outOf: l.outOf,
        worth: l.worth,
        due: [...(dueOf(l)?.days ?? [])],
      })),
    })
    setBusy(false)
    if (done) onClose()
  }
  return (
    <Dialog onClose={onClose} size="xl" scrollable>
      <Modal.Header closeButton>
        <DialogTitle>A plan from lines</DialogTitle>
      </Modal.Header>
      <Modal.Body className="d-grid gap-3">
        <Form.Group controlId="plan-lines">
          <Form.Label className="soft small mb-0">
            A line each: title, component, marked out of, worth, due. Worth and due may be missing; without a component it is that of the
            line above
          </Form.Label>
          <Form.Control as="textarea" rows={7} autoFocus placeholder={EXAMPLE} value={text} onChange={(e) => setText(e.target.value)} />
        </Form.Group>
        <p role="status" className="mb-0">
          {read.lines.length > 0 && (
            <>
              <b>{lines.length}</b> {lines.length === 1 ? 'assessment' : 'assessments'} to add
              {read.components.length > 0 && (
                <>
                  {' '}
                  · new:{' '}
                  {read.components
                    .map((c) => (c.weight === null ? `${c.title}, weight open` : `${c.title} ${numeral(c.weight)}%`))
                    .join(', ')}
                </>
              )}
              {refused > 0 && <span className="brick"> · {counted(refused, 'line')} left out</span>}
            </>
          )}
        </p>
        {read.lines.length > 0 && (
          <table className="grid" aria-label="What the lines would add">
            <thead>
              <tr>
                <th className="number">line</th>
                <th>title</th>
                <th>component</th>
                <th className="number">out of</th>
                <th className="number">worth</th>
                <th>due</th>
              </tr>
            </thead>
            <tbody>
              {read.lines.map(({ line, text: said, adds, why }) =>
                adds ? (
                  <tr key={line}>
                    <td className="number soft">{line}</td>
                    <td>{adds.title}</td>
                    <td>{adds.component}</td>
                    <td className="number">{numeral(adds.outOf)}</td>
                    <td className="number">{numeral(adds.worth ?? adds.outOf)}</td>
                    <td>
                      <Due line={adds} left={dueOf(adds)?.notStarted.length ?? 0} />
                    </td>
                  </tr>
                ) : (
                  <tr key={line} className="brick">
                    <td className="number">{line}</td>
                    <td>{said}</td>
                    <td colSpan={4}>{why}</td>
                  </tr>
                ),
              )}
            </tbody>
          </table>
        )}
        {plan.hasMarks && lines.length > 0 && (
          <p className="soft small mb-0">
            There are marks already, so they are recorded and do not count until you tick “counts” and adopt that.
          </p>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="link" onClick={onClose}>
          Cancel
        </Button>
        <Button disabled={lines.length === 0 || busy} onClick={() => void add()}>
          {lines.length === 0 ? 'Add them' : `Add ${counted(lines.length, 'assessment')}`}
        </Button>
      </Modal.Footer>
    </Dialog>
  )
}

function Due({ line: { due }, left }: { line: PlanLine; left: number }) {
  if (due === null) return <span className="soft">no day yet</span>
  return (
    <>
      {due.kind === 'week' ? `first meetings of week ${due.week}` : due.kind === 'day' ? shownDay(due.day) : ''}
      {left > 0 && <span className="ochre"> · not in {counted(left, 'section')} that begin later</span>}
    </>
  )
}
