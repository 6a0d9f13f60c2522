import type { CourseState } from '../course/state'

/** The whole course, where an assessment or a component could be named. */
export const WHOLE_COURSE = 'course'

/** What figures are about: an assessment in its marks, a component or the course in percent. */
export interface OfWhat {
  subject: string
  title: string
  unit: 'marks' | 'percent'
  /** What it is marked out of, or 100. */
  top: number
  /** Place among the components; −1 for what is none. */
  component: number
  /** The assessments in it, by their places in the plan. */
  assessments: number[]
}

/** An assessment that is looked at where none is named: one that was read twice, else the course. */
const defaultOf = ({ table }: CourseState): string => table.assessments.find((a) => a.readingsWanted === 2)?.id ?? WHOLE_COURSE

export function ofWhat(state: CourseState, wanted: string | null): OfWhat {
  const { table } = state
  const of = wanted ?? defaultOf(state)
  const at = table.assessments.findIndex((a) => a.id === of)
  if (at >= 0) {
    const { title, outOf } = table.assessments[at]!
    return { subject: of, title, unit: 'marks', top: outOf, component: -1, assessments: [at] }
  }
  const component = table.components.findIndex((c) => c.id === of)
  return {
    subject: component >= 0 ? of : WHOLE_COURSE,
    title: table.components[component]?.title ?? 'The course',
    unit: 'percent',
    top: 100,
    component,
    assessments: table.assessments.flatMap((a, i) => (a.counts && (component < 0 || a.componentId === of) ? i : [])),
  }
}
