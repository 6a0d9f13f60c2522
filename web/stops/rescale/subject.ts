import type { TablePlan } from '#contract'

/** What is rescaled: the marks of an assessment, or the course percent. */
export interface Subject {
  /** Null for the course percent. */
  assessmentId: string | null
  title: string
  outOf: number
  passMark: number | null
}

/** The course percent, where an assessment could be named. */
export const TOTAL = 'total'

export const THE_TOTAL: Subject = { assessmentId: null, title: 'Course percent', outOf: 100, passMark: null }

export function subjectOf({ assessments }: Pick<TablePlan, 'assessments'>, of: string | null): Subject | null {
  if (of === TOTAL) return THE_TOTAL
  const a = assessments.find((x) => x.id === of)
  return a ? { assessmentId: a.id, title: a.title, outOf: a.outOf, passMark: a.passMark } : null
}

/** In the place of an adjustment: none is looked at, and another one can be begun. */
export const AT_NONE = 'none'
