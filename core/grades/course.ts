import type { TotalMethod } from '../rescale/methods'

/** The input and the result of the grade engine. Everything is plain data: ids are strings, percents are 0..100. */

export const STATUSES = ['in', 'late', 'missing', 'absent', 'exempt', 'held'] as const
export type Status = (typeof STATUSES)[number]

export interface Policy {
  missing: { kind: 'zero' } | { kind: 'pending' } | { kind: 'floor'; percent: number }
  absent: { kind: 'pending' } | { kind: 'zero' } | { kind: 'exempt' }
  late: { kind: 'none' } | { kind: 'cap'; percent: number } | { kind: 'perDay'; percent: number; maxDays: number | null }
  rounding: { decimals: 0 | 1 | 2 } | null
  above100: 'allow' | 'cap'
}

export interface Component {
  id: string
  weight: number
  combine: 'byWorth' | 'equally'
  dropLowest: number
  bonus: boolean
}

export interface Assessment {
  id: string
  componentId: string
  outOf: number
  worth: number
  counts: boolean
  bonus: boolean
  droppable: boolean
}

export interface Placement {
  assessmentId: string
  sectionId: string
}

export interface CourseStudent {
  id: string
  sectionId: string
}

export interface MarkRow {
  studentId: string
  assessmentId: string
  /** On the assessment's own scale; null is a blank, which is pending and never a zero. */
  mark: number | null
  status: Status
  daysLate: number
}

export interface Boundary {
  grade: string
  /** Percent, the inclusive lower limit of the grade. */
  from: number
}

/** A rescaling of the course percent itself, in percents. */
export interface TotalAdjustment {
  method: TotalMethod
  /** Nobody's percent falls by it. */
  neverLower: boolean
}

/** The part of the work that a condition is about. */
export type ConditionOn = { componentId: string } | { assessmentId: string }

/** What a grade asks of one part: who has less there gets at most the grade it names, whatever their percent. */
export type Condition = ConditionOn & {
  /** Percent of the component, or of the assessment's maximum after the late rule. */
  least: number
  /** The best grade without it. */
  atMost: string
}

/** The id of the component or assessment that a condition is on. */
export const partOf = (c: ConditionOn): string => ('componentId' in c ? c.componentId : c.assessmentId)

export interface Course {
  policy: Policy
  components: Component[]
  assessments: Assessment[]
  placements: Placement[]
  students: CourseStudent[]
  marks: MarkRow[]
  boundaries: Boundary[]
  /** In their order; without any the adjusted percent is the final one. */
  adjustments?: TotalAdjustment[]
  /** What grades ask of single parts. */
  conditions?: Condition[]
}

export interface ComponentResult {
  componentId: string
  percent: number | null
  /** Ids of the assessments left out by "drop lowest", in plan order. */
  dropped: readonly string[]
}

export interface StudentResult {
  studentId: string
  soFar: number | null
  lowest: number | null
  highest: number | null
  final: number | null
  /** `final` after the adjustments of the course percent: what is rounded and graded. */
  adjusted: number | null
  rounded: number | null
  grade: string | null
  /** Places of the conditions that took the grade down from the one of the percent. */
  heldBy: readonly number[]
  /** Places of all that are not met, whether or not they took anything down. */
  unmet: readonly number[]
  pending: number
}

export interface CourseResult {
  students: StudentResult[]
  boundaries: Boundary[]
  rounding: Policy['rounding']
  conditions: readonly Condition[]
}

export interface GradedCourse extends CourseResult {
  /** Component by component, in the order of the plan, of the student at a place in `students`: of thousands few are looked at. */
  componentsAt: (row: number) => ComponentResult[]
}

/** The course that was handed in contradicts itself; `path` says where, e.g. `marks[12].studentId`. */
export class CourseError extends Error {
  constructor(
    message: string,
    readonly path: string,
  ) {
    super(message)
    this.name = 'CourseError'
  }
}
