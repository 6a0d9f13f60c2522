import type { Boundary, Policy, Status } from '../grades/course'

/** One mark as it was confirmed. */
export interface IssuedMark {
  /** What counted, on the assessment's own scale; null for none. */
  mark: number | null
  /** As it was marked, where it was rescaled since. */
  plain?: number | undefined
  status: Status
  daysLate: number
}

/** A mark as it is written down: a number alone where nothing else is to be said of it; null where the work was not set for them. */
export type IssuedCell = number | IssuedMark | null

/** A mark with all that there is to say of it. */
export const issuedMark = (cell: IssuedCell): IssuedMark | null =>
  typeof cell === 'number' ? { mark: cell, status: 'in', daysLate: 0 } : cell

/** A student's marks by the titles of their assessments; null where the work was not set for them. */
export const marksByTitle = (
  { assessments = [] }: Pick<IssueContent, 'assessments'>,
  { marks }: Pick<IssuedResult, 'marks'>,
): Map<string, IssuedMark | null> => new Map(assessments.map((a, i) => [a.title, issuedMark(marks?.[i] ?? null)]))

/** What was confirmed of one student. What came to be written later is not there in issues of before. */
export interface IssuedResult {
  studentId: string
  candidate: string
  name: string
  section: string
  final: number | null
  /** The percent that was rounded and graded, where the course percent itself was rescaled. */
  adjusted?: number | null | undefined
  rounded: number | null
  grade: string | null
  pending: number
  components: { title: string; percent: number | null }[]
  /** In the order of the assessments. */
  marks?: IssuedCell[] | undefined
  /** Places of the assessments that were left out as the lowest. */
  dropped?: number[] | undefined
  /** Places of the conditions that took the grade down. */
  heldBy?: number[] | undefined
  /** Chance that the grade is the right one, as far as readings tell; null where they do not. */
  chance?: number | null | undefined
}

export interface IssuedCondition {
  /** Title of the component or assessment. */
  on: string
  least: number
  atMost: string
}

export interface IssuedDecision {
  kind: string
  summary: string
  reason: string
  by: string
  at: string
}

/** What is frozen and hashed when results are confirmed. */
export interface IssueContent {
  course: { code: string; title: string; term: string }
  number: number
  policy: Policy
  boundaries: Boundary[]
  /** A bonus one adds points; what is not one is not said to be none. */
  components: { title: string; weight: number | null; bonus?: true | undefined }[]
  assessments?: { title: string; component: string; outOf: number; worth: number | null; counts: boolean; bonus: boolean }[] | undefined
  conditions?: IssuedCondition[] | undefined
  /** Rescalings in force, in words and in their order. */
  adjustments?: string[] | undefined
  /** Those in force, the first first. */
  decisions?: IssuedDecision[] | undefined
  results: IssuedResult[]
}
