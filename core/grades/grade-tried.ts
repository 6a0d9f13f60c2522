import { dependsOnHighest, highestPercent, TotalAdjuster } from './adjust-totals'
import { Conditions } from './conditions'
import type { TotalAdjustment } from './course'
import { emptyTable, Grader } from './grade-course'
import type { GradeTable } from './grade-table'
import type { PackedCourse } from './pack'

/** One mark in place of another: the places of student and assessment, and NaN for none. */
export interface TriedMark {
  student: number
  /** -1 for an assessment that does not count: nothing changes. */
  column: number
  mark: number
}

/**
 * What other marks would lead to, each tried on its own with everything else as it is. What depends on all students (the highest percent
 * that an adjustment brings to a value) stays as it stands. Only the component of the mark is worked out again.
 * @param was the same course as it is graded
 */
export function gradeTried(
  packed: PackedCourse,
  was: GradeTable,
  tried: readonly TriedMark[],
): Pick<GradeTable, 'soFar' | 'adjusted' | 'grade'> {
  const course: PackedCourse = { ...packed, mark: packed.mark.slice(), adjustments: asTheyStand(packed, was) }
  const width = course.assessmentIds.length
  const many = course.components.length
  const inComponent = course.assessmentIds.map((_, a) => [course.components.findIndex((c) => a >= c.start && a < c.end)])
  const grader = new Grader(course, false)
  const own = emptyTable(course, 1, grader.sorted)
  const adjuster = course.adjustments.length > 0 ? new TotalAdjuster(course, own) : null
  const conditions = own.conditions && new Conditions(course, grader.sorted)
  const found = {
    soFar: new Float64Array(tried.length),
    adjusted: new Float64Array(tried.length),
    grade: new Int16Array(tried.length),
  }
  tried.forEach(({ student, column, mark }, i) => {
    const cell = student * width + column
    const stands = course.mark[cell]!
    if (column >= 0) course.mark[cell] = mark
    own.pending[0] = was.pending[student]!
    own.componentPercent.set(was.componentPercent.subarray(student * many, (student + 1) * many))
    grader.gradeIn(student, own, 0, inComponent[column] ?? [])
    adjuster?.adjust(own, student, 0)
    conditions?.hold(own, student, 0)
    found.soFar[i] = own.soFar[0]!
    found.adjusted[i] = own.adjusted[0]!
    found.grade[i] = own.grade[0]!
    if (column >= 0) course.mark[cell] = stands
  })
  return found
}

/** The adjustments of the course percent, with the highest percents that they stand by. */
function asTheyStand(packed: PackedCourse, was: GradeTable): TotalAdjustment[] {
  return packed.adjustments.reduce<TotalAdjustment[]>((before, a) => {
    if (!dependsOnHighest(a.method)) return [...before, a]
    const highest = highestPercent({ ...packed, adjustments: before }, was)
    return [...before, highest === null ? a : { ...a, method: { ...a.method, highest } as typeof a.method }]
  }, [])
}
