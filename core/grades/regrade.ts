import type { Boundary } from './course'
import { TotalAdjuster } from './adjust-totals'
import { Conditions } from './conditions'
import { Grader } from './grade-course'
import type { GradeTable } from './grade-table'
import type { PackedCourse } from './pack'
import { gradeIndex, needsExact } from './rounding'

/**
 * The same marks under other limits and conditions: percents stay, but where one lies so near a limit that exact arithmetic decides.
 * @param packed the course as it was graded, with the limits and conditions that are now in force
 */
export function regradePacked(packed: PackedCourse, was: GradeTable): GradeTable {
  const grader = new Grader(packed)
  const { rounding } = packed.policy
  const table = copied(was, grader.sorted)
  const adjuster = packed.adjustments.length > 0 ? new TotalAdjuster(packed, table) : null
  for (let s = 0; s < was.final.length; s++) {
    const adjusted = was.adjusted[s]!
    if (adjusted !== adjusted) continue
    if (!needsExact(adjusted, rounding, grader.sorted) && !needsExact(adjusted, rounding, was.boundaries))
      table.grade[s] = gradeIndex(was.rounded[s]!, grader.sorted)
    else if (adjuster) adjuster.adjust(table, s, s)
    else grader.grade(s, table, s)
  }
  table.conditions = packed.conditions.length > 0 ? new Uint8Array(table.final.length * packed.conditions.length) : null
  return held(packed, table)
}

/**
 * The same percents with other adjustments of the course percent.
 * @param packed the course as it was graded, with the adjustments that are now in force
 */
export function regradeTotals(packed: PackedCourse, was: GradeTable): GradeTable {
  const grader = new Grader(packed)
  const table = copied(was, grader.sorted)
  table.adjusted = packed.adjustments.length > 0 ? new Float64Array(table.final.length) : table.final
  // Without any the final percents are rounded and graded as they are.
  new TotalAdjuster(packed, table).adjustAll(table)
  return held(packed, table)
}

/**
 * Grades some students anew, whose marks in some columns alone have changed.
 * @param students their places
 * @param columns places of the assessments
 */
export function regradeStudents(packed: PackedCourse, was: GradeTable, students: Iterable<number>, columns: Iterable<number>): GradeTable {
  const grader = new Grader(packed)
  const table = copied(was, grader.sorted)
  const again = [...students]
  const changed = [...columns]
  const components = packed.components.flatMap((c, i) => (changed.some((a) => a >= c.start && a < c.end) ? i : []))
  for (const s of again) grader.gradeIn(s, table, s, components)
  if (packed.adjustments.length > 0) {
    const adjuster = new TotalAdjuster(packed, table)
    // Where the highest percent decides, one student's may move everybody's.
    if (adjuster.dependsOnAll) {
      adjuster.adjustAll(table)
      return held(packed, table)
    }
    for (const s of again) adjuster.adjust(table, s, s)
  }
  return held(packed, table, again)
}

/** Takes down what conditions do, of those whose grades were given anew by their percents. */
function held(packed: PackedCourse, table: GradeTable, students?: readonly number[]): GradeTable {
  if (!table.conditions) return table
  const conditions = new Conditions(packed, table.boundaries)
  if (students) for (const s of students) conditions.hold(table, s, s)
  else conditions.holdAll(table)
  return table
}

const copied = (t: GradeTable, boundaries: Boundary[], final = t.final.slice()): GradeTable => ({
  soFar: t.soFar.slice(),
  lowest: t.lowest.slice(),
  highest: t.highest.slice(),
  final,
  adjusted: t.adjusted === t.final ? final : t.adjusted.slice(),
  rounded: t.rounded.slice(),
  grade: t.grade.slice(),
  pending: t.pending.slice(),
  componentPercent: t.componentPercent.slice(),
  dropped: t.dropped && t.dropped.slice(),
  conditions: t.conditions && t.conditions.slice(),
  boundaries,
})
