import { achievedOf, highestPercent, type AchievedWeight, type GradedCourse } from '#core/grades'
import {
  gradeAfter,
  gradeByLimits,
  gradeByTotals,
  gradesIf,
  gradeStanding,
  placesOf,
  resultOfColumns,
  standingAfter,
  standingMarks,
  standingRescaled,
  unsureOf,
  type Change,
  type Graded,
  type GradedColumns,
  type GivenErrors,
  type GradeIf,
  type Standing,
  type Unsure,
  type Workings,
} from '#core/trial'
import { compareResults, type Places, type ResultChange } from '#core/rescale'
import type { TablePlan } from '#contract'

/** Marks that stand, and the grades that follow from them. */
export class Outcome {
  private known: GradedCourse | null = null
  private knownPlaces: Places | null = null

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
    const { agreed, agreedBy, reopened } = changed
    if (agreed !== was.agreed || agreedBy !== was.agreedBy || reopened !== was.reopened) {
      const settled = { ...was, agreed, agreedBy, reopened }
      return this.after(settled, settledOtherwise(was, settled)).with(changed)
    }
    const sameMarks =
      changed.scripts === was.scripts &&
      changed.readings === was.readings &&
      changed.agreeBy === was.agreeBy &&
      changed.leftOut === was.leftOut &&
      changed.stays === was.stays &&
      changed.course.students === was.course.students &&
      changed.course.placements === was.course.placements &&
      changed.readingsWanted === was.readingsWanted
    if (!sameMarks) return Outcome.of(changed)
    const { boundaries, conditions, ...others } = changed.course
    const sameCourse = (Object.keys(others) as (keyof typeof others)[]).every((part) => others[part] === was.course[part])
    // An adjustment keeps within what its assessment is marked out of.
    if (!sameCourse)
      return changed.adjustments === was.adjustments && changed.course.assessments === was.course.assessments
        ? new Outcome(changed, standing, gradeStanding(changed, standing))
        : Outcome.of(changed)
    const sameLimits = boundaries === was.course.boundaries && conditions === was.course.conditions
    const limits = sameLimits ? this.all : gradeByLimits(this.all, changed)
    if (changed.adjustments === was.adjustments) return new Outcome(changed, standing, limits)
    const rescaled = standingRescaled(standing, was, changed)
    const marked = rescaled.cells.length > 0 ? gradeAfter(limits, changed, rescaled.standing, rescaled.cells) : limits
    return new Outcome(changed, rescaled.standing, sameTotals(was, changed) ? marked : gradeByTotals(marked, changed))
  }

  /** After the scripts in some cells were written, and nothing else. */
  after(written: Workings, cells: readonly number[]): Outcome {
    const standing = standingAfter(this.standing, written, cells)
    return standing ? new Outcome(written, standing, gradeAfter(this.all, written, standing, cells)) : Outcome.of(written)
  }

  /** The course percents as some adjustments of them leave them, NaN for who has none; and the highest of them, exactly. */
  totalsUnder(adjustments: Workings['adjustments']): { percents: Float64Array; highest: string | null } {
    const { packed, columns } = gradeByTotals(this.all, { adjustments })
    return { percents: columns.table.adjusted, highest: highestPercent(packed, columns.table) }
  }

  /** What other plain marks would lead to, each on its own. */
  gradesIf(tried: readonly { cell: number; plain: number }[]): GradeIf[] {
    return gradesIf(this.workings, this.standing, this.all, tried)
  }

  /** How unsure each course percent is. @param given what people say of assessments whose readings do not tell */
  unsure(given?: GivenErrors): Unsure {
    return unsureOf(this.workings, this.standing, this.all, given)
  }

  /** What each assessment that counts really decides. */
  decides(): AchievedWeight[] {
    return achievedOf(this.all.packed, this.graded.table)
  }

  get graded(): GradedColumns {
    return this.all.columns
  }

  get places(): Places {
    return (this.knownPlaces ??= placesOf(this.all.columns))
  }

  /** Student by student; made when it is first read, as most readers take the columns alone. */
  get result(): GradedCourse {
    return (this.known ??= resultOfColumns(this.graded))
  }
}

/** Cells whose scripts are settled, or open again, otherwise than they were. */
function settledOtherwise(was: Workings, is: Workings): number[] {
  const cells = new Set<number>()
  const differ = (a: ReadonlyMap<number, unknown>, b: ReadonlyMap<number, unknown>) => {
    for (const [cell, value] of a) if (b.get(cell) !== value) cells.add(cell)
  }
  differ(was.agreed, is.agreed)
  differ(is.agreed, was.agreed)
  differ(was.agreedBy, is.agreedBy)
  differ(is.agreedBy, was.agreedBy)
  for (const cell of was.reopened) if (!is.reopened.has(cell)) cells.add(cell)
  for (const cell of is.reopened) if (!was.reopened.has(cell)) cells.add(cell)
  return [...cells]
}

/** Whether the course percent is adjusted as it was. */
function sameTotals(was: Workings, is: Workings): boolean {
  const [a, b] = [was, is].map((w) => w.adjustments.filter((x) => x.assessmentId === null))
  return a!.length === b!.length && a!.every((x, i) => x === b![i])
}

const compared = new WeakMap<Outcome, { with: Outcome; change: ResultChange }>()

/** Who moves between two outcomes; what several ask of the same two is worked out once. */
export function changeBetween(before: Outcome, after: Outcome): ResultChange {
  const known = compared.get(after)
  if (known?.with === before) return known.change
  const change = compareResults(before.places, after.places)
  compared.set(after, { with: before, change })
  return change
}

/** A course as the worker holds it: as it is decided, and with the open trial in it. */
export const isRescaled = ({ tried }: Pick<CourseState, 'tried'>): boolean => tried.adjustments.some((a) => a.on)

/** What a course comes to with nothing rescaled; null where nothing is rescaled anyway. */
export const withoutRescaling = (state: Pick<CourseState, 'tried' | 'current'>): Outcome | null =>
  isRescaled(state) ? state.current.with({ ...state.tried, adjustments: [] }) : null

export interface CourseState {
  table: TablePlan
  workings: Workings
  tried: Workings
  changes: readonly Change[]
  adopted: Outcome
  /** The trial where one is open, else what is adopted. */
  current: Outcome
}
