import { useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useDraft } from '../../../saving/drafts'
import type { PlacementFinding } from '#core/roll'
import type { Plan } from '#contract'
import { grouped, type dateFindings, type FindingGroup } from '../../../parts/plan-findings'
import type { PlacementEdits } from './edits'
import { shownDay } from '../../../parts/format'

const SHOWN = 30

interface Props {
  findings: ReturnType<typeof dateFindings>
  accepted: Plan['accepted']
  edits: PlacementEdits
  plan: Plan
  onGo: (finding: PlacementFinding) => void
}

/** What is odd about the dates: each with what would mend it, or let stand with a reason. */
export function Findings({ findings: { open, accepted }, accepted: reasons, edits, plan, onGo }: Props) {
  const [asking, setAsking] = useState<string | null>(null)
  const groups = useMemo(() => grouped(open, plan), [open, plan])
  const spot = (f: PlacementFinding) => ({
    a: plan.assessments.findIndex((a) => a.id === f.assessmentId),
    s: plan.sections.findIndex((s) => s.id === f.sectionId),
  })
  const mendable = (list: PlacementFinding[]) => list.filter((f) => f.mend !== null && f.sectionId !== null)
  const mend = (list: PlacementFinding[]) => edits.setDays(list.map((f) => ({ spot: spot(f), due: f.mend! })))
  return (
    <section>
      <div className="d-flex justify-content-between align-items-baseline">
        <h2>{groups.length === 0 ? 'Nothing odd about the dates' : `${groups.length} to look at`}</h2>
        {edits.mayEdit && groups.filter((g) => mendable(g.findings).length > 0).length > 1 && (
          <button className="quiet-button" onClick={() => mend(mendable(open))}>
            mend {mendable(open).length} at once
          </button>
        )}
      </div>
      <ul className="findings">
        {groups.slice(0, SHOWN).map((g) => (
          <li key={g.key}>
            <button className="finding" onClick={() => onGo(g.findings[0]!)} title="Go to it">
              {g.message}
            </button>
            {edits.mayEdit && (
              <span className="buttons">
                <Mend group={g} mendable={mendable(g.findings)} onMend={mend} />
                {g.kind === 'no placement' && (
                  <Button
                    size="sm"
                    variant="outline-primary"
                    onClick={() => edits.place(plan.sections.map((_, s) => ({ a: spot(g.findings[0]!).a, s })))}
                  >
                    Set it for all sections
                  </Button>
                )}
                <Button size="sm" variant="link" onClick={() => setAsking(asking === g.key ? null : g.key)}>
                  Let it stand…
                </Button>
              </span>
            )}
            {asking === g.key && (
              <Because
                of={g.key}
                onBecause={(reason) => {
                  edits.accept(
                    g.findings.map((f) => f.key),
                    reason,
                  )
                  setAsking(null)
                }}
              />
            )}
          </li>
        ))}
      </ul>
      {groups.length > SHOWN && <p className="soft">and {groups.length - SHOWN} more</p>}
      {accepted.length > 0 && (
        <details className="soft">
          <summary>{accepted.length} let stand</summary>
          <ul className="findings">
            {accepted.slice(0, SHOWN).map((f) => {
              const why = reasons.find((r) => r.key === f.key)!
              return (
                <li key={f.key}>
                  {f.message} <i>{why.reason}</i> ({why.by}){' '}
                  {edits.mayEdit && (
                    <button className="quiet-button" onClick={() => edits.raise([f.key], why.reason)}>
                      raise again
                    </button>
                  )}
                </li>
              )
            })}
          </ul>
        </details>
      )}
    </section>
  )
}

/** What would mend a group of findings; where days differ by section, all go to their own. */
function Mend({
  group,
  mendable,
  onMend,
}: {
  group: FindingGroup
  mendable: PlacementFinding[]
  onMend: (findings: PlacementFinding[]) => void
}) {
  if (mendable.length === 0) return null
  const verb = group.kind === 'not set' ? 'Set it on' : 'Put it on'
  return (
    <Button size="sm" variant="outline-primary" onClick={() => onMend(mendable)}>
      {mendable.length === 1 ? `${verb} ${shownDay(mendable[0]!.mend!, 'EEE d MMM')}` : `${verb} the next meeting of each`}
    </Button>
  )
}

function Because({ of: finding, onBecause }: { of: string; onBecause: (reason: string) => void }) {
  const [reason, setReason, drop] = useDraft(`let stand ${finding}`)
  return (
    <form
      className="d-flex gap-2 mt-1"
      onSubmit={(e) => {
        e.preventDefault()
        if (reason.trim() === '') return
        onBecause(reason.trim())
        drop()
      }}
    >
      <Form.Control
        autoFocus
        size="sm"
        placeholder="because…"
        aria-label="Why it may stand"
        maxLength={500}
        value={reason}
        onChange={(e) => setReason(e.target.value)}
      />
      <Button size="sm" type="submit" disabled={reason.trim() === ''}>
        Let stand
      </Button>
    </form>
  )
}
