import type { CourseResult } from '#core/grades'
import {
  gradeAfter,
  gradeByLimits,
  gradeStanding,
  resultOfColumns,
  standingAfter,
  standingMarks,
  type Change,
  type Graded,
  type GradedColumns,
  type Standing,
  type Workings,
} from '#core/trial'
import type { TablePlan } from '#contract'

/** Marks that stand, and the grades that follow from them. */
export class Outcome {
  private known: CourseResult | null = null

  private constructor(
    private readonly workings: Workings,
    readonly standing: Standing,
    private readonly all: Graded,
  ) {}

  static of(workings: Workings): Outcome {
    const standing = standingMarks(workings)
    return new Outcome(workings, standing, gradeStanding(workings, standing))
  }

  /** Of the same course with changes in it: what they leave as it is, is not worked out again. */
  with(changed: Workings): Outcome {
    const { workings: was, standing } = this
    const sameMarks =
      changed.scripts === was.scripts &&
      changed.readings === was.readings &&
      changed.agreed === was.agreed &&
      changed.reopened === was.reopened &&
      changed.agreeBy === was.agreeBy &&
      changed.leftOut === was.leftOut &&
      changed.stays === was.stays &&
      changed.course.students === was.course.students &&
      changed.course.placements === was.course.placements &&
      changed.adjustments === was.adjustments &&
      changed.readingsWanted === was.readingsWanted
    if (!sameMarks) return Outcome.of(changed)
    const { boundaries, ...others } = changed.course
    const sameCourse = (Object.keys(others) as (keyof typeof others)[]).every((part) => others[part] === was.course[part])
    if (sameCourse) return new Outcome(changed, standing, gradeByLimits(this.all, boundaries))
    return new Outcome(changed, standing, gradeStanding(changed, standing))
  }

  /** After the scripts in some cells were written, and nothing else. */
  after(written: Workings, cells: readonly number[]): Outcome {
    const standing = standingAfter(this.standing, written, cells)
    return standing ? new Outcome(written, standing, gradeAfter(this.all, written, standing, cells)) : Outcome.of(written)
  }

  get graded(): GradedColumns {
    return this.all.columns
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
