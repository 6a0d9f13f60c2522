import type { Boundary, CourseResult } from '../grades/course'
import { gradePacked, resultOf, type GradeTable, type ResultPlan } from '../grades/grade-course'
import { packColumns } from '../grades/pack'
import { planForGrades, standingMarks, type Standing } from './standing-marks'
import type { Workings } from './workings'

/** Grades as columns of numbers, with all that they are read by: what travels between a worker and a page. */
export interface GradedColumns {
  plan: ResultPlan
  table: GradeTable
  boundaries: Boundary[]
  rounding: CourseResult['rounding']
}

/** Grades what stands, column by column. */
export function gradeColumns(w: Workings, standing: Standing): GradedColumns {
  const packed = packColumns(planForGrades(w), { mark: standing.mark, status: w.scripts.status, daysLate: w.scripts.daysLate })
  const { studentIds, assessmentIds, components, planOrder } = packed
  return {
    plan: { studentIds, assessmentIds, components, planOrder },
    table: gradePacked(packed),
    boundaries: w.course.boundaries,
    rounding: w.course.policy.rounding,
  }
}

/** Grades in columns as results, student by student. */
export const resultOfColumns = ({ plan, table, boundaries, rounding }: GradedColumns): CourseResult =>
  resultOf(plan, table, { boundaries, rounding })

/** The results of all students, as `gradeCourse` gives them. */
export const gradeWorkings = (w: Workings, standing: Standing = standingMarks(w)): CourseResult =>
  resultOfColumns(gradeColumns(w, standing))
