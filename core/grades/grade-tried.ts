import { highestPercent, dependsOnHighest } from './adjust-totals'
import type { TotalAdjustment } from './course'
import { gradePacked } from './grade-course'
import type { GradeTable } from './grade-table'
import type { PackedCourse } from './pack'

/** One mark in place of another: the places of student and assessment, and NaN for none. */
export interface TriedMark {
  student: number
  /** -1 for an assessment that does not count: nothing changes. */
  column: number
  mark: number
}

/** Rows that are graded at once; more would only take more room. */
const AT_ONCE = 8192

/**
 * What other marks would lead to, each tried on its own with everything else as it is: one row a mark. What depends on all students (the
 * highest percent that an adjustment brings to a value) stays as it stands.
 * @param was the same course as it is graded
 */
export function gradeTried(
  packed: PackedCourse,
  was: GradeTable,
  tried: readonly TriedMark[],
): Pick<GradeTable, 'soFar' | 'adjusted' | 'grade'> {
  const course = { ...packed, adjustments: asTheyStand(packed, was) }
  const found = {
    soFar: new Float64Array(tried.length),
    adjusted: new Float64Array(tried.length),
    grade: new Int16Array(tried.length),
  }
  for (let from = 0; from < tried.length; from += AT_ONCE) {
    const table = gradePacked(withMarks(course, tried.slice(from, from + AT_ONCE)), false)
    found.soFar.set(table.soFar, from)
    found.adjusted.set(table.adjusted, from)
    found.grade.set(table.grade, from)
  }
  return found
}

/** The course with the students of some tried marks alone, a row a mark, and those marks in it. */
function withMarks(course: PackedCourse, tried: readonly TriedMark[]): PackedCourse {
  const width = course.assessmentIds.length
  const rows = <T extends Float64Array | Uint8Array>(all: T, empty: T): T => {
    tried.forEach(({ student }, row) => empty.set(all.subarray(student * width, (student + 1) * width), row * width))
    return empty
  }
  const count = tried.length * width
  const mark = rows(course.mark, new Float64Array(count))
  tried.forEach((t, row) => {
    if (t.column >= 0) mark[row * width + t.column] = t.mark
  })
  return {
    ...course,
    studentIds: tried.map((t) => course.studentIds[t.student]!),
    sectionOf: Int32Array.from(tried, (t) => course.sectionOf[t.student]!),
    mark,
    status: rows(course.status, new Uint8Array(count)),
    daysLate: course.daysLate && rows(course.daysLate, new Float64Array(count)),
  }
}

/** The adjustments of the course percent, with the highest percents that they stand by. */
function asTheyStand(packed: PackedCourse, was: GradeTable): TotalAdjustment[] {
  return packed.adjustments.reduce<TotalAdjustment[]>((before, a) => {
    if (!dependsOnHighest(a.method)) return [...before, a]
    const highest = highestPercent({ ...packed, adjustments: before }, was)
    return [...before, highest === null ? a : { ...a, method: { ...a.method, highest } as typeof a.method }]
  }, [])
}
