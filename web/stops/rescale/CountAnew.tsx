import { useState } from 'react'
import { isRereading, type Adjustment } from '#core/rescale'
import { routes } from '#contract'
import { call, messageOf } from '../../api/client'
import { useDecidedCourse } from '../../course/course'
import { counted } from '../../parts/format'
import styles from './rescale.module.css'

interface Props {
  adjustment: Adjustment
  /** Readings that it says nothing of. */
  uncounted: number
  onAnew: (adjustment: Adjustment) => void
}

/** That readings came since criteria were counted otherwise, and the way to count these too. */
export function CountAnew({ adjustment, uncounted, onAnew }: Props) {
  const { id, mayDecide } = useDecidedCourse()
  const [problem, setProblem] = useState<string | null>(null)
  const { method, assessmentId } = adjustment
  if (uncounted === 0 || assessmentId === null || !isRereading(method)) return null
  const count = async () => {
    setProblem(null)
    const { kind, criterionIds } = method
    try {
      const params = { courseId: id, assessmentId }
      const marks = await call(routes.recount, { params, body: { how: kind, criterionIds } })
      onAnew({ ...adjustment, method: { kind, criterionIds, ...marks } })
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  return (
    <span className={`small ochre ${styles.anew}`}>
      {counted(uncounted, 'reading')} came since, or {uncounted === 1 ? 'has' : 'have'} no criteria, and{' '}
      {uncounted === 1 ? 'counts' : 'count'} as made.{' '}
      {mayDecide && (
        <button className="quiet-button" onClick={() => void count()}>
          Count them too
        </button>
      )}
      {problem && <span role="alert"> {problem}</span>}
    </span>
  )
}
