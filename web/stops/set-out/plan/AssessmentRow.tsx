import { useSortable } from '@dnd-kit/sortable'
import { GripVertical } from 'lucide-react'
import { Form } from 'react-bootstrap'
import type { SectionWeights } from '#core/grades'
import { wayTitle } from '#core/marking'
import type { Assessment } from '#contract'
import { fixed, numeral } from '../../../parts/format'
import { NumberField } from '../../../parts/NumberField'
import type { PlanEdits } from './edits'
import { TitleField } from '../../../parts/TitleField'
import styles from './plan.module.css'

interface Props {
  assessment: Assessment
  edits: PlanEdits
  weights: SectionWeights[]
  /** What is odd about its sums; empty where nothing is. */
  odd: string
  /** For how many sections it is set, of how many. */
  placed: number
  sections: number
  /** Its component, where the table does not say it. */
  within: string | null
  chosen: boolean
  onChoose: () => void
  /** Moves it up or down; null where the order is not the plan's. */
  onStep: ((by: number) => void) | null
}

export function AssessmentRow({ assessment: a, edits, weights, odd, placed, sections, within, chosen, onChoose, onStep }: Props) {
  const { mayDecide } = edits
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id: a.id,
    disabled: onStep === null,
  })
  const away = edits.takenAway.has(a.id)
  const findings = [...findingsOf(a), odd].filter(Boolean)
  return (
    <tr
      ref={setNodeRef}
      className={`${chosen ? 'chosen' : ''} ${isDragging ? styles.dragging : ''} ${away ? styles.away : ''}`}
      style={{ transform: transform ? `translateY(${transform.y}px)` : undefined, transition }}
      onFocus={onChoose}
      onClick={onChoose}
      onKeyDown={(e) => {
        const by = e.altKey ? { ArrowUp: -1, ArrowDown: 1 }[e.key] : undefined
        if (by === undefined || !onStep) return
        e.preventDefault()
        onStep(by)
      }}
    >
      <td className={styles.grip}>
        {onStep && (
          <button ref={setActivatorNodeRef} {...attributes} {...listeners} aria-label={`Move ${a.title}`} title="Drag, or Alt with ↑ and ↓">
            <GripVertical size={14} aria-hidden />
          </button>
        )}
      </td>
      <td>
        <TitleField
          label={`Title of ${a.title}`}
          value={a.title}
          disabled={!mayDecide}
          onCommit={(title) => void edits.editAssessment(a, { title })}
        />
      </td>
      <td className="soft" title={within ?? undefined}>
        {findings.length > 0 ? (
          <span className="ochre small">{findings.join('; ')}</span>
        ) : (
          <>
            {wayTitle(a.marking)}
            {a.readingsWanted > 1 && `, ${a.readingsWanted === 2 ? 'two' : a.readingsWanted} readings`}
            {within !== null && ` · ${within}`}
          </>
        )}
      </td>
      <td>
        <NumberField
          label={`${a.title} is marked out of`}
          value={a.outOf}
          min={0.001}
          max={10_000}
          disabled={!mayDecide}
          onCommit={(outOf) => outOf !== null && void edits.editAssessment(a, { outOf })}
        />
      </td>
      <td>
        <NumberField
          label={`${a.title} is worth`}
          value={a.worth}
          missing
          min={0}
          max={10_000}
          disabled={!mayDecide}
          onCommit={(worth) => worth !== null && edits.count(a, { worth })}
        />
      </td>
      <td className="number">
        <Carries weights={weights} assessmentId={a.id} counts={a.counts} />
      </td>
      <td>
        <NumberField
          label={`Pass mark of ${a.title}`}
          value={a.passMark}
          optional
          min={0}
          max={10_000}
          disabled={!mayDecide}
          onCommit={(passMark) => void edits.editAssessment(a, { passMark })}
        />
      </td>
      <td>
        <Form.Check
          aria-label={`${a.title} counts`}
          checked={a.counts}
          disabled={!mayDecide || away}
          onChange={(e) => edits.count(a, { counts: e.target.checked })}
        />
      </td>
      <td className="text-nowrap">
        {placed === sections ? (
          <span className="soft">all {sections}</span>
        ) : (
          <b className="ochre">{placed === 0 ? 'none' : `${placed} of ${sections}`}</b>
        )}
      </td>
    </tr>
  )
}

function findingsOf(a: Assessment): string[] {
  return [
    a.counts && a.worth === null ? 'worth is missing: it carries nothing yet' : '',
    a.passMark !== null && a.passMark > a.outOf ? `the pass mark is over ${numeral(a.outOf)}` : '',
    a.outOf <= 1 && a.marking !== 'completion' ? `marked out of ${numeral(a.outOf)}: was a percent meant?` : '',
  ].filter(Boolean)
}

/** The effective weight, or the range of it where sections differ. */
function Carries({ weights, assessmentId, counts }: { weights: SectionWeights[]; assessmentId: string; counts: boolean }) {
  if (!counts) return <span className="soft">not counted</span>
  let [low, high, points, n] = [Infinity, -Infinity, null as number | null, 0]
  for (const s of weights)
    for (const w of s.weights) {
      if (w.assessmentId !== assessmentId) continue
      n++
      points = w.points
      if (w.share === null) continue
      low = Math.min(low, w.share * 100)
      high = Math.max(high, w.share * 100)
    }
  if (n === 0) return <>–</>
  if (points !== null) return <b>up to {fixed(points)}</b>
  return (
    <>
      <b>{high - low < 0.05 ? fixed(high) : `${fixed(low)}–${fixed(high)}`}</b> <span className="soft">%</span>
    </>
  )
}
