import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core'
import { arrayMove, SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { useMemo } from 'react'
import { foldedName } from '#core/roll'
import type { SectionWeights } from '#core/grades'
import type { Assessment, Plan } from '#contract'
import { sumFindings } from '../../../parts/plan-findings'
import { AssessmentRow } from './AssessmentRow'
import { ComponentRow } from './ComponentRow'
import type { PlanEdits } from './edits'
import styles from './plan.module.css'

export type Order = 'plan' | 'date' | 'title'

interface Props {
  decided: Plan
  edits: PlanEdits
  weights: SectionWeights[]
  order: Order
  find: string
  chosen: string | null
  onChoose: (assessmentId: string) => void
}

/** Components with their assessments beneath; in another order, the assessments alone. */
export function PlanTable({ decided, edits, weights, order, find, chosen, onChoose }: Props) {
  const { plan, mayDecide } = edits
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const placed = useMemo(() => placedOf(decided), [decided])
  const found = (a: Assessment) => foldedName(a.title).includes(find)
  const ids = decided.assessments.map((a) => a.id)
  const titleOf = (id: string) => plan.assessments.find((a) => a.id === id)?.title ?? ''

  /** Moves one before or after another, into its component. */
  const moveTo = (id: string, target: string) => {
    const [moved, other] = [plan.assessments.find((a) => a.id === id)!, plan.assessments.find((a) => a.id === target)!]
    edits.order(arrayMove(ids, ids.indexOf(id), ids.indexOf(target)))
    if (moved.componentId !== other.componentId) edits.count(moved, { componentId: other.componentId })
  }
  const step = (id: string, by: number) => {
    const target = ids[ids.indexOf(id) + by]
    if (target) moveTo(id, target)
  }
  const end = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id) moveTo(String(active.id), String(over.id))
  }
  const odd = useMemo(() => sumFindings(decided), [decided])
  const row = (a: Assessment) => (
    <AssessmentRow
      key={a.id}
      assessment={a}
      edits={edits}
      weights={weights}
      placed={placed.get(a.id)?.sections ?? 0}
      odd={odd.get(a.id) ?? ''}
      sections={decided.sections.length}
      within={order === 'plan' ? null : (plan.components.find((c) => c.id === a.componentId)?.title ?? '')}
      chosen={chosen === a.id}
      onChoose={() => onChoose(a.id)}
      onStep={order === 'plan' && mayDecide ? (by) => step(a.id, by) : null}
    />
  )
  const sorted = useMemo(() => {
    const list = plan.assessments.filter((a) => foldedName(a.title).includes(find))
    const due = (a: Assessment) => placed.get(a.id)?.first ?? '9999'
    return order === 'date'
      ? list.sort((a, b) => due(a).localeCompare(due(b)))
      : list.sort((a, b) => a.title.localeCompare(b.title, undefined, { numeric: true }))
  }, [plan.assessments, find, order, placed])

  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={end}
      accessibility={{
        announcements: {
          onDragStart: ({ active }) => `${titleOf(String(active.id))} is picked up.`,
          onDragOver: ({ active, over }) => (over ? `${titleOf(String(active.id))} is at ${titleOf(String(over.id))}.` : undefined),
          onDragEnd: ({ active, over }) => (over ? `${titleOf(String(active.id))} is put at ${titleOf(String(over.id))}.` : undefined),
          onDragCancel: ({ active }) => `${titleOf(String(active.id))} stays where it was.`,
        },
        screenReaderInstructions: { draggable: 'Space picks up, the arrow keys move, Space puts down, Escape leaves it where it was.' },
      }}
    >
      <table className={`grid ${styles.plan}`}>
        <thead>
          <tr>
            <th>
              <span className="visually-hidden">move</span>
            </th>
            <th>assessment</th>
            <th>how it is marked</th>
            <th className="number">marked out of</th>
            <th className="number">worth</th>
            <th className="number">really carries</th>
            <th className="number">pass mark</th>
            <th>counts</th>
            <th>set for</th>
          </tr>
        </thead>
        <SortableContext items={order === 'plan' ? ids : []} strategy={verticalListSortingStrategy}>
          {order === 'plan' ? (
            plan.components.map((c) => {
              const inside = plan.assessments.filter((a) => a.componentId === c.id)
              return (
                <tbody key={c.id}>
                  <ComponentRow component={c} holds={inside.length} odd={odd.get(c.id) ?? ''} edits={edits} />
                  {inside.filter(found).map(row)}
                </tbody>
              )
            })
          ) : (
            <tbody>{sorted.map(row)}</tbody>
          )}
        </SortableContext>
      </table>
    </DndContext>
  )
}

/** Assessment → how many sections it is set for, and the first day it is due anywhere. */
function placedOf({ placements, assessments }: Plan): Map<string, { sections: number; first: string | null }> {
  const placed = new Map<string, { sections: number; first: string | null }>()
  for (const [a, , due] of placements) {
    const own = placed.get(assessments[a]!.id) ?? { sections: 0, first: null }
    own.sections++
    if (due !== null && (own.first === null || due < own.first)) own.first = due
    placed.set(assessments[a]!.id, own)
  }
  return placed
}
