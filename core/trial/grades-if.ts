import { gradeAt } from '../bounds/boundaries'
import { gradeTried } from '../grades/grade-tried'
import { columnsOf, type Graded } from './grade-workings'
import { rescaledTo } from './rescaled-marks'
import type { Standing } from './standing'
import type { Workings } from './workings'

/** What a student would get by another mark on one script. */
export interface GradeIf {
  /** What counts: the mark once it is rescaled as the others are. */
  mark: number
  percent: number | null
  grade: string | null
  /** Something else is still open, so that this is the grade so far. */
  soFar: boolean
}

/**
 * What other plain marks would lead to, rescaled as their assessments are, each on its own and the other students being what they are.
 * Many are graded together: it costs about as much as grading that many students.
 * @param graded the same marks as they stand
 */
export function gradesIf(w: Workings, standing: Standing, graded: Graded, tried: readonly { cell: number; plain: number }[]): GradeIf[] {
  const { packed, columns } = graded
  const { width } = w.cells
  const rescale = rescaledTo(w, standing)
  const columnOf = columnsOf(packed, width)
  const marks = tried.map(({ cell, plain }) => rescale(cell, plain))
  const { soFar, adjusted, grade } = gradeTried(
    packed,
    columns.table,
    tried.map(({ cell }, i) => ({ student: Math.floor(cell / width), column: columnOf[cell % width]!, mark: marks[i]! })),
  )
  const { boundaries } = columns.table
  return marks.map((mark, i) => {
    const given = grade[i]!
    const percent = Number.isNaN(adjusted[i]!) ? soFar[i]! : adjusted[i]!
    if (Number.isNaN(percent)) return { mark, percent: null, grade: null, soFar: true }
    const soFarGrade = () => gradeAt(percent, boundaries, packed.policy.rounding)
    return { mark, percent, grade: given < 0 ? soFarGrade() : boundaries[given]!.grade, soFar: given < 0 }
  })
}
