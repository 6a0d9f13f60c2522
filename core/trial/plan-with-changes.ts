import type { Course } from '../grades/course'
import { applyChanges, type Change } from './changes'
import { workingsOf, type TableLike } from './course-table'
import type { Workings } from './workings'

/** The parts of a plan that changes can change. */
export type PlanLike = Pick<TableLike, 'policy' | 'boundaries' | 'conditions' | 'components' | 'assessments' | 'leftOut'>

const NO_SCRIPTS = { id: [], student: [], assessment: [], status: [], daysLate: [], entered: [] }
const NO_READINGS = { script: [], marker: [], mark: [] }

/** Without all that is by student or script, also where the plan came with it: thousands of ids need not be looked up. */
const bare = (plan: PlanLike): TableLike => ({
  ...plan,
  students: [],
  markers: [],
  placements: [],
  stays: {},
  scripts: NO_SCRIPTS,
  readings: NO_READINGS,
  agreed: {},
  agreedBy: {},
  reopened: [],
  adjustments: [],
})

/**
 * A plan with changes in it, without its marks: a weight or worth that nobody typed and no change sets stays empty.
 * @returns the plan, and the adjustments and standing rules beside it
 */
export function planWithChanges<P extends PlanLike>(
  plan: P,
  changes: readonly Change[],
): { plan: P } & Pick<Workings, 'adjustments' | 'agreeBy'> {
  const { course, leftOut, adjustments, agreeBy } = applyChanges(workingsOf(bare(plan)), changes)
  const set = new Set(
    changes.map((c) => (c.kind === 'weigh' ? c.componentId : c.kind === 'assess' && c.patch.worth !== undefined ? c.assessmentId : '')),
  )
  const changed: P = {
    ...plan,
    policy: course.policy,
    boundaries: course.boundaries,
    conditions: course.conditions,
    leftOut,
    components: plan.components.map((c, i) => ({
      ...c,
      ...course.components[i]!,
      weight: c.weight === null && !set.has(c.id) ? null : course.components[i]!.weight,
    })),
    assessments: plan.assessments.map((a, i) => ({
      ...a,
      ...course.assessments[i]!,
      worth: a.worth === null && !set.has(a.id) ? null : course.assessments[i]!.worth,
    })),
  }
  return { plan: changed, adjustments, agreeBy }
}

/** A plan as a course without students: for weights and proofs. */
export function courseOfPlan(plan: PlanLike, placements: Course['placements']): Course {
  return { ...workingsOf(bare(plan)).course, placements, marks: [] }
}
