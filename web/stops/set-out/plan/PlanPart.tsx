import { useDeferredValue, useMemo, useState, type ReactNode } from 'react'
import { Button, Form } from 'react-bootstrap'
import { foldedName } from '#core/roll'
import { effectiveWeights, spreadRemainder } from '#core/grades'
import { courseOfPlan } from '#core/trial'
import type { Plan } from '#contract'
import { useKeys } from '../../../settings/keys'
import { placementsOf } from '../../../parts/plan-findings'
import { WriteProblem, WritesProvider } from '../../../saving/writes'
import { AssessmentCloseUp } from './AssessmentCloseUp'
import { BringInAssessment } from './BringInAssessment'
import { CopyAssessment } from './CopyAssessment'
import { usePlanEdits } from './edits'
import { NewAssessment } from './NewAssessment'
import { NewComponent } from './NewComponent'
import { PastePlan } from './PastePlan'
import { PlanTable, type Order } from './PlanTable'
import { Policies } from './Policies'
import { Proof } from './Proof'
import { UncommonSections } from './UncommonSections'
import { WeightBar } from './WeightBar'
import { CloseUp } from '../../../parts/CloseUp'
import { KeyCap } from '../../../settings/KeyCap'

/** What counts, and how much. */
export function PlanPart({ decided, nav }: { decided: Plan; nav: ReactNode }) {
  return (
    <WritesProvider courseId={decided.head.id}>
      <PlanView decided={decided} nav={nav} />
    </WritesProvider>
  )
}

type Dialog = 'assessment' | 'component' | 'lines' | 'copy' | 'copy here' | 'package' | null
const ORDERS: [Order, string][] = [
  ['plan', 'in the plan’s order'],
  ['date', 'by date'],
  ['title', 'by title'],
]

function PlanView({ decided, nav }: { decided: Plan; nav: ReactNode }) {
  const edits = usePlanEdits(decided)
  const { plan, mayDecide } = edits
  const [dialog, setDialog] = useState<Dialog>(null)
  const [chosen, setChosen] = useState<string | null>(null)
  const [panel, setPanel] = useState<'proof' | 'policies'>('proof')
  const [order, setOrder] = useState<Order>('plan')
  const [find, setFind] = useState('')
  /** What the last copy left out. */
  const [said, setSaid] = useState<string | null>(null)
  useKeys([
    ...(mayDecide
      ? [
          { key: 'a', does: 'add an assessment', run: () => setDialog(plan.components.length > 0 ? 'assessment' : 'component') },
          { key: 'c', does: 'add a component', run: () => setDialog('component') },
          { key: 'l', does: 'add a plan from lines', run: () => setDialog('lines') },
        ]
      : []),
    { key: 'p', does: 'policies or the proof', run: () => (setChosen(null), setPanel((p) => (p === 'proof' ? 'policies' : 'proof'))) },
    { key: 'Escape', does: 'close the assessment’s close-up', run: () => setChosen(null) },
  ])
  const course = useMemo(
    () => courseOfPlan(plan, placementsOf(decided)),
    // The tried plan is made anew at every drawing; its figures are what it is compared by.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [decided, JSON.stringify([plan.components, plan.assessments, plan.policy])],
  )
  const slow = useDeferredValue(course)
  const weights = useMemo(() => effectiveWeights(slow), [slow])
  const assessment = plan.assessments.find((a) => a.id === chosen)
  const ordinary = plan.components.filter((c) => !c.bonus)
  const sum = ordinary.reduce((s, c) => s + (c.weight ?? 0), 0)
  const spread = spreadRemainder(ordinary.map((c) => c.weight))
  const spreadable = (ordinary.some((c) => c.weight === null) || Math.abs(sum - 100) > 1e-9) && spread.every((w) => w !== null) && sum > 0
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>What counts, and how much</h1>
          {nav}
        </div>
        <WriteProblem />
        {said !== null && (
          <p className="note warn d-flex justify-content-between" role="status">
            <span>{said}</span>
            <button className="quiet-button" onClick={() => setSaid(null)}>
              Understood
            </button>
          </p>
        )}
        {plan.components.length === 0 ? (
          <div className="empty">
            <p>
              Nothing counts yet. A component is a part of the course that carries weight, such as practicals or an exam; assessments lie
              inside it.
            </p>
            {mayDecide && (
              <div className="d-flex gap-3">
                <Button onClick={() => setDialog('component')}>
                  Add the first component <KeyCap cap="c" />
                </Button>
                <Button variant="outline-primary" onClick={() => setDialog('lines')}>
                  Paste a plan <KeyCap cap="l" />
                </Button>
              </div>
            )}
          </div>
        ) : (
          <>
            <WeightBar
              components={plan.components}
              onChange={edits.weigh}
              disabled={!mayDecide}
              spread={
                spreadable && mayDecide
                  ? () =>
                      edits.weigh(
                        ordinary.map((component, i) => ({ component, weight: spread[i]! })).filter((w) => w.weight !== w.component.weight),
                        'spread the weights to 100',
                      )
                  : null
              }
            />
            <div className="d-flex gap-3 align-items-baseline mb-2 small">
              <Form.Select
                size="sm"
                aria-label="Order of the assessments"
                value={order}
                onChange={(e) => setOrder(e.target.value as Order)}
              >
                {ORDERS.map(([value, words]) => (
                  <option key={value} value={value}>
                    {words}
                  </option>
                ))}
              </Form.Select>
              <Form.Control
                size="sm"
                style={{ width: 170 }}
                placeholder="Find in the plan"
                aria-label="Find in the plan"
                value={find}
                onChange={(e) => setFind(e.target.value)}
              />
              <span className="soft ms-auto">
                {decided.hasMarks
                  ? 'There are marks: what moves grades is tried first'
                  : 'No marks yet: changes are saved as you make them'}
              </span>
            </div>
            <PlanTable
              decided={decided}
              edits={edits}
              weights={weights}
              order={order}
              find={foldedName(find)}
              chosen={chosen}
              onChoose={setChosen}
            />
            <div className="buttons mt-3">
              {mayDecide && (
                <>
                  <Button variant="outline-primary" onClick={() => setDialog('assessment')}>
                    New assessment <KeyCap cap="a" />
                  </Button>
                  <Button variant="outline-primary" onClick={() => setDialog('component')}>
                    New component <KeyCap cap="c" />
                  </Button>
                  <Button variant="outline-primary" onClick={() => setDialog('lines')}>
                    Paste lines <KeyCap cap="l" />
                  </Button>
                  <Button variant="outline-primary" onClick={() => setDialog('copy')}>
                    Copy from another course
                  </Button>
                  <Button variant="outline-primary" onClick={() => setDialog('package')}>
                    From a package
                  </Button>
                </>
              )}
              <Button variant="link" onClick={() => (setChosen(null), setPanel('policies'))}>
                Policies <KeyCap cap="p" />
              </Button>
            </div>
            {decided.away.length > 0 && (
              <p className="soft mt-3">
                Taken away:{' '}
                {decided.away.map((a) => (
                  <span key={a.id} className="me-3">
                    {a.title}{' '}
                    {mayDecide && (
                      <Button variant="link" size="sm" className="p-0 align-baseline" onClick={() => edits.bringBack(a)}>
                        bring back
                      </Button>
                    )}
                  </span>
                ))}
              </p>
            )}
          </>
        )}
      </main>
      <CloseUp>
        {assessment ? (
          <AssessmentCloseUp
            key={assessment.id}
            assessment={assessment}
            decided={decided}
            edits={edits}
            weights={weights}
            onCopy={() => setDialog('copy here')}
            onClose={() => setChosen(null)}
          />
        ) : panel === 'policies' ? (
          <Policies
            policy={plan.policy}
            hasMarks={decided.hasMarks}
            disabled={!mayDecide}
            onChange={edits.policy}
            onClose={() => setPanel('proof')}
          />
        ) : (
          <>
            <UncommonSections decided={decided} course={slow} weights={weights} />
            <Proof course={slow} plan={plan} />
          </>
        )}
      </CloseUp>
      {dialog === 'assessment' && (
        <NewAssessment
          components={plan.components}
          hasMarks={decided.hasMarks}
          onClose={() => setDialog(null)}
          onAdd={async (body) => {
            const added = await edits.addAssessment(body)
            if (added) setChosen(added.id)
            setDialog(null)
          }}
        />
      )}
      {dialog === 'lines' && (
        <PastePlan plan={decided} onAdd={async (body) => (await edits.addPlan(body)) !== null} onClose={() => setDialog(null)} />
      )}
      {dialog === 'component' && (
        <NewComponent
          first={plan.components.length === 0}
          onClose={() => setDialog(null)}
          onAdd={async (body) => {
            await edits.addComponent(body)
            setDialog(null)
          }}
        />
      )}
      {dialog === 'package' && (
        <BringInAssessment
          courseId={decided.head.id}
          components={plan.components}
          hasMarks={decided.hasMarks}
          onClose={() => setDialog(null)}
          onBringIn={async (body) => {
            const added = await edits.bringInAssessment(body)
            if (added) setChosen(added.assessment.id)
            setDialog(null)
          }}
        />
      )}
      {(dialog === 'copy' || dialog === 'copy here') && (
        <CopyAssessment
          courseId={decided.head.id}
          original={dialog === 'copy here' ? chosen : null}
          components={plan.components}
          onClose={() => setDialog(null)}
          onCopy={async (body) => {
            const added = await edits.copyAssessment(body)
            if (added) setChosen(added.assessment.id)
            const left = added?.leftOut ?? []
            setSaid(left.length > 0 ? `${added!.assessment.title} is not set for ${left.join(', ')}, which had not begun by then.` : null)
            setDialog(null)
          }}
        />
      )}
    </div>
  )
}
