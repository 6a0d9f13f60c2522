import type { Boundary } from './course'
import { Grader, type GradeTable } from './grade-course'
import type { PackedCourse } from './pack'
import { gradeIndex, needsExact } from './rounding'

/**
 * The same marks under other limits: percents stay, but where one lies so near a limit that exact arithmetic decides.
 * @param packed the course as it was graded, with the limits that are now in force
 */
export function regradePacked(packed: PackedCourse, was: GradeTable): GradeTable {
  const grader = new Grader(packed)
  const { rounding } = packed.policy
  const table = copied(was, grader.sorted)
  for (let s = 0; s < was.final.length; s++) {
    const final = was.final[s]!
    if (final !== final) continue
    if (needsExact(final, rounding, grader.sorted) || needsExact(final, rounding, was.boundaries)) grader.grade(s, table, s)
    else table.grade[s] = gradeIndex(was.rounded[s]!, grader.sorted)
  }
  return table
}

/** Grades some students anew, whose marks alone have changed. @param students their places */
export function regradeStudents(packed: PackedCourse, was: GradeTable, students: Iterable<number>): GradeTable {
  const grader = new Grader(packed)
  const table = copied(was, grader.sorted)
  for (const s of students) grader.grade(s, table, s)
  return table
}

const copied = (t: GradeTable, boundaries: Boundary[]): GradeTable => ({
  soFar: t.soFar.slice(),
  lowest: t.lowest.slice(),
  highest: t.highest.slice(),
  final: t.final.slice(),
  rounded: t.rounded.slice(),
  grade: t.grade.slice(),
  pending: t.pending.slice(),
  componentPercent: t.componentPercent.slice(),
  dropped: t.dropped && t.dropped.slice(),
  boundaries,
})
