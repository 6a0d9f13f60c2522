import { adjustmentMap, isLinear, METHODS, type MarkMap, type TotalMethod } from '../rescale/methods'
import { exactCoursePercent } from './exact-course'
import type { TotalAdjustment } from './course'
import type { GradeTable } from './grade-table'
import type { PackedCourse } from './pack'
import { least, most, rationalOf, toNumber, ZERO, type Rational } from './rational'
import { descending, gradeExactly, gradeIndex, needsExact, roundClear } from './rounding'
import { statusRules } from './scoring'

/** One adjustment of the course percent, as the doubles of most students take it and as exact arithmetic does where they come close to a line. */
interface Step {
  quick: (percent: number) => number
  exact: MarkMap
}

const HUNDRED = rationalOf(100)
/** Percents this near the highest may be the highest. */
const NEAR = 1e-7

/**
 * Adjusts course percents in the order of the adjustments, then keeps them at 0 or more and, where the policy caps, at 100 or less; rounds
 * and grades what comes out. Exact where a double lies too near a tie or a boundary.
 */
export class TotalAdjuster {
  private readonly steps: Step[]
  private readonly sorted
  private readonly rules
  /** Whether the highest of all percents decides what becomes of each. */
  readonly dependsOnAll: boolean

  /**
   * @param table what is graded, of all students
   * @param all the same of all, where the table is of one student
   */
  constructor(
    private readonly course: PackedCourse,
    table: GradeTable,
    all: () => GradeTable = () => table,
  ) {
    this.rules = statusRules(course.policy)
    this.sorted = descending(course.boundaries)
    this.dependsOnAll = course.adjustments.some((a) => dependsOnHighest(a.method))
    const { final } = this.dependsOnAll ? all() : table
    this.steps = []
    for (const a of course.adjustments) {
      const highest = dependsOnHighest(a.method) ? this.highest(final) : null
      this.steps.push(stepOf(a, highest))
    }
  }

  adjustAll(table: GradeTable): void {
    for (let s = 0; s < table.final.length; s++) this.adjust(table, s, s)
  }

  /** Adjusts what stands at a row of the table. @param student whose percent it is, as a place in the course */
  adjust(table: GradeTable, student: number, row: number): void {
    const final = table.final[row]!
    if (final !== final) {
      table.adjusted[row] = table.rounded[row] = NaN
      table.grade[row] = -1
      return
    }
    const { rounding } = this.course.policy
    let percent = Math.max(
      0,
      this.steps.reduce((p, step) => step.quick(p), final),
    )
    if (this.course.policy.above100 === 'cap') percent = Math.min(100, percent)
    if (needsExact(percent, rounding, this.sorted)) {
      const exact = this.exactly(student)
      const decided = gradeExactly(exact, rounding, this.sorted)
      table.adjusted[row] = toNumber(exact)
      table.rounded[row] = decided.rounded
      table.grade[row] = decided.grade
    } else {
      table.adjusted[row] = percent
      table.rounded[row] = roundClear(percent, rounding)
      table.grade[row] = gradeIndex(table.rounded[row]!, this.sorted)
    }
  }

  private exactly(student: number): Rational {
    const percent = most(ZERO, this.through(this.exactFinal(student), this.steps.length))
    return this.course.policy.above100 === 'cap' ? least(percent, HUNDRED) : percent
  }

  private exactFinal = (student: number): Rational => exactCoursePercent(this.course, this.rules, student).percent!

  private through = (percent: Rational, steps: number): Rational => this.steps.slice(0, steps).reduce((p, step) => step.exact(p), percent)

  /** The highest of all percents as they go into the next step. */
  highest(final: Float64Array): Rational | null {
    const going = final.map((p) => this.steps.reduce((x, step) => step.quick(x), p))
    const top = going.reduce((a, b) => (b > a || a !== a ? b : a), NaN)
    let found: Rational | null = null
    going.forEach((p, student) => {
      if (!(p >= top - NEAR)) return
      const exact = this.through(this.exactFinal(student), this.steps.length)
      found = found ? most(found, exact) : exact
    })
    return found
  }
}

/** The highest course percent as it is adjusted, exactly: a fraction; null where nobody has one. */
export function highestPercent(course: PackedCourse, table: GradeTable): string | null {
  const highest = new TotalAdjuster(course, table).highest(table.final)
  return highest && `${highest.n}/${highest.d}`
}

/**
 * What the adjustments of the course percent make of any percent, in doubles and before it is kept within 0 and 100.
 * @param finals of all students, NaN for who has none
 */
export function percentMap(adjustments: readonly TotalAdjustment[], finals: Float64Array): (percent: number) => number {
  const all = finals.filter((final) => final === final)
  return adjustments.reduce<(percent: number) => number>(
    (before, a) => {
      const highest = dependsOnHighest(a.method) && all.length > 0 ? rationalOf(Math.max(...all.map(before))) : null
      const { quick } = stepOf(a, highest)
      return (p) => quick(before(p))
    },
    (p) => p,
  )
}

export const dependsOnHighest = (method: TotalMethod): boolean => method.kind === 'topTo' && method.highest === undefined

function stepOf({ method, neverLower }: TotalAdjustment, highest: Rational | null): Step {
  const map = adjustmentMap(method, highest)
  const quick = inDoubles(method, map)
  if (!neverLower) return { quick, exact: map }
  return { quick: (p) => Math.max(p, quick(p)), exact: (p) => most(p, map(p)) }
}

/** The same map in doubles: every method of the course percent is straight between its points, and beyond them. */
function inDoubles(method: TotalMethod, map: MarkMap): (percent: number) => number {
  const at = (x: number) => toNumber(map(rationalOf(x)))
  if (isLinear(method)) {
    const from = at(0)
    const slope = (at(100) - from) / 100
    return (p) => from + slope * p
  }
  const knots = METHODS[method.kind as 'curve'].points!.read(method as never)
  return (p) => {
    const after = knots.findIndex(([x]) => p <= x)
    if (after === 0) return p + knots[0]![1] - knots[0]![0]
    if (after === -1) return p + knots.at(-1)![1] - knots.at(-1)![0]
    const [[x0, y0], [x1, y1]] = [knots[after - 1]!, knots[after]!]
    return y0 + ((p - x0) / (x1 - x0)) * (y1 - y0)
  }
}
