import {
  gradeColumns,
  resultOfColumns,
  standingMarks,
  type Change,
  type CourseResult,
  type GradedColumns,
  type Standing,
  type Workings,
} from '#core'
import type { TablePlan } from '#contract'

/** Marks that stand, and the grades that follow from them. */
export class Outcome {
  private known: CourseResult | null = null

  constructor(
    readonly standing: Standing,
    readonly graded: GradedColumns,
  ) {}

  static of(workings: Workings): Outcome {
    const standing = standingMarks(workings)
    return new Outcome(standing, gradeColumns(workings, standing))
  }

  /** Student by student; made when it is first read, as most readers take the columns alone. */
  get result(): CourseResult {
    return (this.known ??= resultOfColumns(this.graded))
  }
}

/** A course as the worker holds it: as it is decided, and with the open trial in it. */
export interface CourseState {
  table: TablePlan
  workings: Workings
  tried: Workings
  changes: readonly Change[]
  adopted: Outcome
  /** The trial where one is open, else what is adopted. */
  current: Outcome
}
