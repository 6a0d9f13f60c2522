import type { Boundary, Condition, CourseResult, GradedCourse } from '../grades/course'
import { resultOf, type ResultPlan } from '../grades/course-results'
import { gradePacked } from '../grades/grade-course'
import { orNull, type GradeTable } from '../grades/grade-table'
import { regradePacked, regradeStudents, regradeTotals } from '../grades/regrade'
import { packColumns, packConditions, type PackedCourse } from '../grades/pack'
import type { Places } from '../rescale/compare-results'
import type { Standing } from './standing'
import { planForGrades, standingMarks, totalAdjustments } from './standing-marks'
import type { Workings } from './workings'

/** Grades as columns of numbers, with all that they are read by: what travels between a worker and a page. */
export interface GradedColumns {
  plan: ResultPlan
  table: GradeTable
  boundaries: Boundary[]
  rounding: CourseResult['rounding']
  conditions: readonly Condition[]
}

/** What stands, graded, and laid out so that a part of it can be graded anew. */
export interface Graded {
  packed: PackedCourse
  columns: GradedColumns
}

const gradedAs = (packed: PackedCourse, table: GradeTable): Graded => {
  const { studentIds, assessmentIds, components, planOrder, boundaries, policy } = packed
  const plan = { studentIds, assessmentIds, components, planOrder }
  const conditions = packed.conditions.map((c) => c.asked)
  return { packed, columns: { plan, table, boundaries, rounding: policy.rounding, conditions } }
}

/** Grades what stands, column by column. */
export function gradeStanding(w: Workings, standing: Standing): Graded {
  const packed = packColumns(planForGrades(w), { mark: standing.mark, status: w.scripts.status, daysLate: w.scripts.daysLate })
  return gradedAs(packed, gradePacked(packed))
}

/** The same under other limits and conditions. */
export function gradeByLimits({ packed: was, columns }: Graded, w: Workings): Graded {
  const { boundaries, conditions } = planForGrades(w)
  const packed: PackedCourse = { ...was, boundaries, conditions: packConditions({ ...w.course, boundaries, conditions }, was) }
  return gradedAs(packed, regradePacked(packed, columns.table))
}

/** The same with other adjustments of the course percent. */
export function gradeByTotals({ packed: was, columns }: Graded, w: Pick<Workings, 'adjustments'>): Graded {
  const packed = { ...was, adjustments: totalAdjustments(w) }
  return gradedAs(packed, regradeTotals(packed, columns.table))
}

/** Of each assessment, by its place in the plan, the column that it has among those that count; -1 for none. */
export function columnsOf({ planOrder }: PackedCourse, assessments: number): Int32Array {
  const columns = new Int32Array(assessments).fill(-1)
  planOrder.forEach((order, column) => (columns[order] = column))
  return columns
}

/** The same after the marks of some cells, and nothing else, have changed. */
export function gradeAfter({ packed: was, columns }: Graded, w: Workings, standing: Standing, cells: readonly number[]): Graded {
  const { width } = w.cells
  const columnOf = columnsOf(was, width)
  const many = was.assessmentIds.length
  const places = cells.map((c) => (columnOf[c % width]! < 0 ? -1 : Math.floor(c / width) * many + columnOf[c % width]!))
  // What a rescaling leaves as it is, is shared: columns of all cells are large.
  const differs = (is: ArrayLike<number>, before: (place: number) => number) =>
    cells.some((c, i) => places[i]! >= 0 && is[c] !== before(places[i]!))
  const { status, daysLate } = w.scripts
  const packed: PackedCourse = {
    ...was,
    mark: was.mark.slice(),
    status: differs(status, (at) => was.status[at]!) ? was.status.slice() : was.status,
    daysLate: differs(daysLate, (at) => was.daysLate?.[at] ?? 0)
      ? (was.daysLate?.slice() ?? new Float64Array(was.mark.length))
      : was.daysLate,
  }
  cells.forEach((c, i) => {
    const at = places[i]!
    if (at < 0) return
    packed.mark[at] = standing.mark[c]!
    if (packed.status !== was.status) packed.status[at] = status[c]!
    if (packed.daysLate && packed.daysLate !== was.daysLate) packed.daysLate[at] = daysLate[c]!
  })
  const students = new Set(cells.map((c) => Math.floor(c / width)))
  const changed = new Set(cells.map((c) => columnOf[c % width]!))
  return gradedAs(packed, regradeStudents(packed, columns.table, students, changed))
}

/** Grades in columns as results, student by student. */
export const resultOfColumns = ({ plan, table, ...by }: GradedColumns): GradedCourse => resultOf(plan, table, by)

/** Where students stand, by grades in columns: what two outcomes are compared by. */
export const placesOf = ({ plan, table: { soFar, adjusted, grade, boundaries } }: GradedColumns): Places => ({
  boundaries,
  students: plan.studentIds.map((studentId, row) => ({
    studentId,
    soFar: orNull(soFar[row]!),
    adjusted: orNull(adjusted[row]!),
    grade: boundaries[grade[row]!]?.grade ?? null,
  })),
})

/** The results of all students, as `gradeCourse` gives them. */
export const gradeWorkings = (w: Workings, standing: Standing = standingMarks(w)): GradedCourse =>
  resultOfColumns(gradeStanding(w, standing).columns)
