import { exactComponentPercent, exactFraction } from './exact-course'
import type { Boundary } from './course'
import { HELD, MET, UNMET, type GradeTable } from './grade-table'
import type { PackedCondition, PackedCourse } from './pack'
import { compare, rationalOf, times } from './rational'
import { descending, NEAR } from './rounding'
import { afterLate, FIXED, OUT, statusRules, TAKE_LATE, type StatusRules, WAIT } from './scoring'

const HUNDRED = rationalOf(100)

/**
 * Takes grades down where a condition is not met, after they were given by the percent. Doubles decide but where they come too close:
 * there exact arithmetic does.
 */
export class Conditions {
  private readonly rules: StatusRules
  /** Of each condition, the place of the best grade without it. */
  private readonly atMost: number[]

  /** @param sorted the boundaries, highest first */
  constructor(
    private readonly course: PackedCourse,
    sorted: Boundary[] = descending(course.boundaries),
  ) {
    this.rules = statusRules(course.policy)
    this.atMost = course.conditions.map((c) => sorted.findIndex((b) => b.grade === c.asked.atMost))
  }

  holdAll(table: GradeTable): void {
    for (let s = 0; s < table.final.length; s++) this.hold(table, s, s)
  }

  /** Takes down the grade that stands at a row of the table, and leaves behind what took it. @param student whose it is, as a place in the course */
  hold(table: GradeTable, student: number, row: number): void {
    const { conditions } = this.course
    const given = table.grade[row]!
    let held = given
    for (let i = 0; i < conditions.length; i++) {
      const unmet = given >= 0 && this.isUnmet(conditions[i]!, table, student, row)
      const takes = unmet && this.atMost[i]! > given
      table.conditions![row * conditions.length + i] = takes ? HELD : unmet ? UNMET : MET
      if (takes) held = Math.max(held, this.atMost[i]!)
    }
    table.grade[row] = held
  }

  private isUnmet({ asked: { least }, component, column }: PackedCondition, table: GradeTable, student: number, row: number): boolean {
    const { course, rules } = this
    const percent =
      component >= 0
        ? table.componentPercent[row * course.components.length + component]!
        : column >= 0
          ? this.percentIn(student, column)
          : NaN
    if (percent !== percent) return false
    if (Math.abs(percent - least) > NEAR) return percent < least
    const exact =
      component >= 0
        ? exactComponentPercent(course, rules, student, course.components[component]!)?.percent
        : times(HUNDRED, exactFraction(course, rules, student, column)!)
    return compare(exact!, rationalOf(least)) < 0
  }

  /** What a student has in an assessment, in percent of its maximum; NaN where it does not apply or is pending. */
  private percentIn(student: number, column: number): number {
    const { placed, status, mark, outOf, daysLate, sectionOf, assessmentIds, policy } = this.course
    const { action, fixed } = this.rules
    const width = assessmentIds.length
    if (placed[sectionOf[student]! * width + column] === 0) return NaN
    const cell = student * width + column
    const does = action[status[cell]!]!
    if (does === OUT || does === WAIT) return NaN
    if (does === FIXED) return 100 * fixed[status[cell]!]!
    const f = mark[cell]! / outOf[column]!
    return 100 * (does === TAKE_LATE ? afterLate(f, daysLate?.[cell] ?? 0, policy.late) : f)
  }
}
