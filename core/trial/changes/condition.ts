import { partOf, type Condition } from '../../grades/course'
import { ChangeError, there, type ChangeKind } from './kind'

/** What a grade asks of one part of the work, or that it no longer does. */
export interface SetCondition {
  kind: 'condition'
  conditionId: string
  /** Null takes it away. */
  condition: Condition | null
}

export const condition: ChangeKind<SetCondition> = {
  decides: 'bound',
  word: 'condition',
  several: 'conditions',
  target: (c) => c.conditionId,
  apply(draft, { conditionId, condition }) {
    const kept = condition && { ...condition, id: conditionId }
    const known = draft.conditions.some((c) => c.id === conditionId)
    draft.conditions = known
      ? draft.conditions.flatMap((c) => (c.id === conditionId ? (kept ?? []) : c))
      : kept
        ? [...draft.conditions, kept]
        : draft.conditions
  },
  check({ condition }, { after, components, assessments }) {
    if (!condition) return
    const { atMost } = condition
    if ('componentId' in condition) there(components, condition.componentId, 'component')
    else there(assessments, condition.assessmentId, 'assessment')
    const grade = after.course.boundaries.findIndex((b) => b.grade === atMost)
    if (grade < 0) throw new ChangeError(`The condition names the grade ${atMost}, which this course does not have.`)
    if (grade === 0) throw new ChangeError(`${atMost} is the best grade there is: a condition that leaves it holds nobody.`)
  },
  words: (all, { title }) =>
    all.map(({ condition }) => {
      if (!condition) return 'a condition taken away'
      return `${title(partOf(condition))} asks for ${condition.least}%, else at most ${condition.atMost}`
    }),
}
