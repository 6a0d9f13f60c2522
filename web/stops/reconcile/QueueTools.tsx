import { useMemo } from 'react'
import { Form } from 'react-bootstrap'
import { SectionSelect } from '../../parts/SectionSelect'
import { useDecidedCourse } from '../../course/course'
import { QUEUE_ORDERS, type QueueOrder } from './queue'
import type { ReadingQueue } from './queue-rows'
import type { Filter } from './filter'
import { StandingRuleSelect } from './StandingRuleSelect'
import { shortNames } from '../../parts/short-names'
import styles from './reconcile.module.css'

interface Props {
  queue: ReadingQueue
  order: QueueOrder
  onOrder: (order: QueueOrder) => void
  filter: Filter
  onFilter: (filter: Filter) => void
  onAssessment: (assessmentId: string | null) => void
}

const MOST_PAIRS = 60

/** Which scripts stand in the queue, and in which order. */
export function QueueTools({ queue, order, onOrder, filter, onFilter, onAssessment }: Props) {
  const { table } = useDecidedCourse()
  const one = table.assessments.find((a) => a.id === queue.assessmentId)
  const surname = useMemo(() => shortNames(table.markers), [table.markers])
  return (
    <div className={styles.tools}>
      <Form.Select
        size="sm"
        aria-label="Assessment"
        value={queue.assessmentId ?? ''}
        onChange={(e) => onAssessment(e.target.value === '' ? null : e.target.value)}
      >
        <option value="">all assessments</option>
        {table.assessments
          .filter((a) => queue.toSettle.includes(a.id))
          .map((a) => (
            <option key={a.id} value={a.id}>
              {a.title}
            </option>
          ))}
      </Form.Select>
      <span className="soft small">first</span>
      <Form.Select size="sm" aria-label="Order of the queue" value={order} onChange={(e) => onOrder(e.target.value as QueueOrder)}>
        {Object.entries(QUEUE_ORDERS).map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </Form.Select>
      <SectionSelect sections={table.sections} value={filter.sectionId} onChange={(sectionId) => onFilter({ ...filter, sectionId })} />
      <Form.Select size="sm" aria-label="Read by" value={filter.readBy} onChange={(e) => onFilter({ ...filter, readBy: e.target.value })}>
        <option value="">whoever read them</option>
        <optgroup label="a marker">
          {table.markers.map((m) => (
            <option key={m.id} value={m.id}>
              {m.name}
            </option>
          ))}
        </optgroup>
        <optgroup label="a pair">
          {queue.pairs.slice(0, MOST_PAIRS).map((p) => (
            <option key={`${p.a} ${p.b}`} value={`${p.a} ${p.b}`}>
              {surname(p.a)} and {surname(p.b)} ({p.scripts})
            </option>
          ))}
        </optgroup>
      </Form.Select>
      {one && <StandingRuleSelect assessment={one} />}
    </div>
  )
}
