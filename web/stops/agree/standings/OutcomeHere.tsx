import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { routes, type CourseOutcome } from '#contract'
import { call, messageOf } from '../../../api/client'
import { useDecidedCourse } from '../../../course/course'
import { useSaved } from '../../../saving/saved'

interface Props {
  outcome: Pick<CourseOutcome, 'id' | 'shown' | 'judgements'>
  /** Assessments whose overall judgement could count. */
  judged: readonly string[]
  onChanged: () => Promise<void>
}

/** What one course makes of an outcome: whether its students see it, and which overall judgements count. */
export function OutcomeHere({ outcome, judged, onChanged }: Props) {
  const { id, table, mayDecide } = useDecidedCourse()
  const { saving } = useSaved()
  const [problem, setProblem] = useState<string | null>(null)
  const title = new Map(table.assessments.map((a) => [a.id, a.title]))
  const set = async (patch: Partial<Pick<CourseOutcome, 'shown' | 'judgements'>>) => {
    setProblem(null)
    const { shown, judgements } = outcome
    try {
      await saving(call(routes.setOutcome, { params: { courseId: id, outcomeId: outcome.id }, body: { shown, judgements, ...patch } }))
      await onChanged()
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  return (
    <section>
      <h2>Who sees it, and what else counts</h2>
      <Form.Check
        id="outcome-shown"
        label="students see where they stand on it"
        checked={outcome.shown}
        disabled={!mayDecide}
        onChange={(e) => void set({ shown: e.target.checked })}
      />
      {judged.map((a) => (
        <Form.Check
          key={a}
          id={`judgement-${a}`}
          label={`the overall judgement of ${title.get(a)}`}
          checked={outcome.judgements.includes(a)}
          disabled={!mayDecide}
          onChange={(e) =>
            void set({ judgements: e.target.checked ? [...outcome.judgements, a] : outcome.judgements.filter((x) => x !== a) })
          }
        />
      ))}
      {problem && (
        <p className="note bad" role="alert">
          {problem}
        </p>
      )}
    </section>
  )
}
