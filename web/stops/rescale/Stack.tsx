import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import { arrayMove, SortableContext, sortableKeyboardCoordinates, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { GripVertical } from 'lucide-react'
import { Button, Form } from 'react-bootstrap'
import { actsOnReadings } from '#core/rescale'
import { Link } from 'react-router'
import { useDecidedCourse } from '../../course/course'
import { counted } from '../../parts/format'
import { usePersonLabels } from '../../settings/names'
import { CopyTo } from './CopyTo'
import { CountAnew } from './CountAnew'
import { MapOut } from './MapOut'
import { useWords } from './methods/words'
import type { RescaleFigures } from './figures'
import { AT_NONE } from './subject'
import type { StackItem } from './stack'
import type { Rescaling } from './useRescaling'
import styles from './rescale.module.css'
import { KeyCap } from '../../settings/KeyCap'

const STATE: Record<StackItem['state'], string> = { adopted: 'adopted', changed: 'adopted, changed in the trial', tried: 'trying' }

/** The adjustments in the order in which they act: looked at, put in another order, switched off, copied, each as a trial. */
export function Stack({ rescaling, figures }: { rescaling: Rescaling; figures: RescaleFigures }) {
  const { mayDecide, order, look } = rescaling
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const words = useWords()
  const { stack, subject } = figures
  if (stack.length === 0) return null
  const ids = stack.map((s) => s.adjustment.id)
  const nameOf = (id: unknown) => words(stack.find((s) => s.adjustment.id === id)!.adjustment)
  const moveTo = (from: number, to: number) => {
    if (to >= 0 && to < ids.length) order(arrayMove(ids, from, to))
  }
  return (
    <section>
      <div className={styles.howHead}>
        <h2>The stack</h2>
        {mayDecide && figures.chosenId !== null && (
          <Button size="sm" variant="link" onClick={() => look(AT_NONE)}>
            A new one <KeyCap cap="n" />
          </Button>
        )}
      </div>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={({ active, over }) =>
          over && active.id !== over.id && moveTo(ids.indexOf(String(active.id)), ids.indexOf(String(over.id)))
        }
        accessibility={{
          announcements: {
            onDragStart: ({ active }) => `${nameOf(active.id)} is picked up.`,
            onDragOver: ({ active, over }) => (over ? `${nameOf(active.id)} is at place ${ids.indexOf(String(over.id)) + 1}.` : undefined),
            onDragEnd: ({ active, over }) =>
              over ? `${nameOf(active.id)} is put at place ${ids.indexOf(String(over.id)) + 1}.` : undefined,
            onDragCancel: ({ active }) => `${nameOf(active.id)} stays where it was.`,
          },
        }}
      >
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          <ol className={styles.stack}>
            {stack.map((item, i) => (
              <Item
                key={item.adjustment.id}
                item={item}
                place={i}
                subject={subject.title}
                chosen={item.adjustment.id === figures.chosenId}
                rescaling={rescaling}
                onStep={stack.length > 1 && mayDecide ? (by) => moveTo(i, i + by) : null}
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
    </section>
  )
}

interface ItemProps {
  item: StackItem
  place: number
  subject: string
  chosen: boolean
  rescaling: Rescaling
  /** Moves it up or down; null where there is nothing to move past. */
  onStep: ((by: number) => void) | null
}

function Item({ item: { adjustment: a, state, anew, uncounted, unreached }, place, subject, chosen, rescaling, onStep }: ItemProps) {
  const { table } = useDecidedCourse()
  const { mayDecide, flip, look, put } = rescaling
  const words = useWords()
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } = useSortable({
    id: a.id,
    disabled: onStep === null,
  })
  const adopted = table.adjustments.find((x) => x.id === a.id)
  return (
    <li
      ref={setNodeRef}
      className={chosen ? styles.chosen : undefined}
      style={{ transform: transform ? `translateY(${transform.y}px)` : undefined, transition }}
      onKeyDown={(e) => {
        const by = e.altKey ? { ArrowUp: -1, ArrowDown: 1 }[e.key] : undefined
        if (by === undefined || !onStep) return
        e.preventDefault()
        onStep(by)
      }}
    >
      {onStep && (
        <button
          ref={setActivatorNodeRef}
          className={styles.grip}
          {...attributes}
          {...listeners}
          aria-label={`Move ${words(a)}`}
          title="Drag, or Alt with ↑ and ↓"
        >
          <GripVertical size={14} aria-hidden />
        </button>
      )}
      {adopted && (
        <Form.Check
          type="switch"
          id={`on-${a.id}`}
          aria-label={`${words(a)} is on`}
          checked={a.on}
          disabled={!mayDecide}
          onChange={(e) => flip(a, e.target.checked, adopted.on)}
        />
      )}
      <button className="row-name" aria-pressed={chosen} onClick={() => look(chosen ? AT_NONE : a.id)}>
        {place + 1} · {words(a)}
      </button>
      <span className={`small ${state === 'adopted' ? 'soft' : 'pine'}`}>
        {STATE[state]}
        {!a.on && ', off'}
        {actsOnReadings(a.method) && ', on readings'}
      </span>
      {mayDecide && <CopyTo adjustment={a} />}
      <MapOut adjustment={a} title={subject} />
      {a.on && <CountAnew adjustment={a} uncounted={uncounted} onAnew={(again) => put(again, `${words(a)} anew`)} />}
      {unreached.length > 0 && <Unreached studentIds={unreached} lean={a.method.kind === 'markerEffect'} />}
      {anew && a.on && (
        <span className={`small ochre ${styles.anew}`}>
          {anew.words}{' '}
          {mayDecide && (
            <button className="quiet-button" onClick={() => put(anew.adjustment, `${words(a)} anew`)}>
              Try it anew
            </button>
          )}
        </span>
      )}
    </li>
  )
}

/** Who keeps their mark though it is covered, and why. */
function Unreached({ studentIds, lean }: { studentIds: readonly string[]; lean: boolean }) {
  const { id, table } = useDecidedCourse()
  const label = usePersonLabels(table.students)
  return (
    <details className={`small ${styles.anew}`}>
      <summary className="ochre">{counted(studentIds.length, 'mark')} it does not change</summary>
      <span className="soft">
        {lean ? 'Marks a person gave, and levelled ones, which are without the lean already: ' : 'Marks a person gave or typed: '}
      </span>
      {studentIds.map((s, i) => (
        <span key={s}>
          {i > 0 && ', '}
          <Link to={`/courses/${id}/students/${s}`}>{label(s)}</Link>
        </span>
      ))}
    </details>
  )
}
