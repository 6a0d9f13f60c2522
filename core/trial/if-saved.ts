import { withStatus, type CellValue } from '../marking/cell-value'
import type { WrittenScript } from './course-table'
import { readingPlaces, type Workings } from './workings'

/** A mark as it was typed for a student and an assessment. */
export interface SentMark extends CellValue {
  studentId: string
  assessmentId: string
}

/**
 * The scripts that typed marks leave behind once they are saved as they are.
 * @returns null where one is for nobody in the workings, or for a script that has readings or was settled: that is not decided by what is typed
 */
export function ifSaved(w: Workings, marks: readonly SentMark[]): Required<WrittenScript>[] | null {
  const { from } = readingPlaces(w)
  const scripts: Required<WrittenScript>[] = []
  for (const { studentId, assessmentId, status, daysLate, mark } of marks) {
    const cell = w.cells.of(studentId, assessmentId)
    if (cell < 0 || from[cell + 1]! > from[cell]! || w.agreed.has(cell) || w.reopened.has(cell)) return null
    const entered = withStatus({ status, daysLate, mark }, status).mark
    scripts.push({ studentId, assessmentId, status, daysLate, entered, readings: [], agreed: null, agreedBy: null, reopened: false })
  }
  return scripts
}
