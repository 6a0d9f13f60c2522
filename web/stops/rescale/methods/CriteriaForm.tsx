import { useState } from 'react'
import { Form } from 'react-bootstrap'
import type { OfKind } from '#core/rescale'
import { routes } from '#contract'
import { call, messageOf } from '../../../api/client'
import { useDecidedCourse, useJudgedFigures } from '../../../course/course'
import { counted, fixed, share } from '../../../parts/format'
import type { FormProps } from './form-props'
import styles from '../rescale.module.css'

interface Props extends FormProps {
  kind: 'without' | 'grant'
  /** Null before a criterion is chosen. */
  method: OfKind<'without' | 'grant'> | null
}

/** Which criteria are left out, or given to all, with what tells an unfair one: its share, and how it goes with the rest. */
export function CriteriaForm({ kind, method, figures, rescaling, onChosen }: Props) {
  const { id: courseId, table } = useDecidedCourse()
  const [problem, setProblem] = useState<string | null>(null)
  // Ticked at once: what it comes to follows from the server.
  const [picked, setPicked] = useState<readonly string[] | null>(null)
  const assessmentId = figures.subject.assessmentId!
  const assessment = table.assessments.find((a) => a.id === assessmentId)!
  const marked = assessment.standardId !== null && assessment.marking !== 'judgement'
  const judged = useJudgedFigures('criteria', marked ? assessmentId : null, null)
  if (!marked) return <p className="small ochre">{assessment.title} is not marked by criteria, so none can be left out or given.</p>
  if (!judged) return <p className="small soft">Fetching its criteria…</p>
  const chosen = picked ?? method?.criterionIds ?? []
  const choose = async (criterionIds: string[]) => {
    const now = rescaling.chosen
    setPicked(criterionIds)
    if (criterionIds.length === 0) {
      setPicked(null)
      onChosen()
      if (now && method) rescaling.drop(now.id)
      return
    }
    const params = { courseId, assessmentId }
    setProblem(null)
    try {
      const recounted = await call(routes.recount, { params, body: { how: kind, criterionIds } })
      onChosen()
      rescaling.start(kind, { kind, criterionIds, ...recounted })
    } catch (e) {
      setProblem(messageOf(e))
    }
    setPicked(null)
  }
  const typed = figures.before.length - new Set(method?.scriptIds).size
  return (
    <div className={styles.form}>
      <span className={styles.criteria}>
        {judged.criteria.map((c) => (
          <Form.Check
            key={c.criterionId}
            id={`${kind}-${c.criterionId}`}
            label={
              <>
                {c.title}{' '}
                <span className="soft small">
                  {share(c.mean)} reached{c.withOthers !== null && `, goes with the rest at ${fixed(c.withOthers, 2)}`}
                </span>
              </>
            }
            checked={chosen.includes(c.criterionId)}
            onChange={(e) => void choose(e.target.checked ? [...chosen, c.criterionId] : chosen.filter((x) => x !== c.criterionId))}
          />
        ))}
      </span>
      {problem && (
        <span className="small brick" role="alert">
          {problem}
        </span>
      )}
      {method && typed > 0 && (
        <span className="small ochre">{counted(typed, 'mark')} typed in or settled by a person’s own mark stay as they are.</span>
      )}
    </div>
  )
}
