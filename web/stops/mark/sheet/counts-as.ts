import type { CourseState } from '../../../course/state'

/** What marks count as, of those that count as another than they were marked: by assessment, by student. */
export type CountsAs = ReadonlyMap<string, ReadonlyMap<string, number>>

/** Marks this near are the same. */
const SAME = 1e-9

/** The marks that an adopted rescaling changes. */
export function countsAs({ workings: { cells }, adopted: { standing } }: CourseState): CountsAs {
  const found = new Map<string, Map<string, number>>()
  for (let cell = 0; cell < cells.count; cell++) {
    const mark = standing.mark[cell]!
    // Neither is true of a mark that is not there.
    if (!(Math.abs(mark - standing.plain[cell]!) > SAME)) continue
    const assessmentId = cells.assessmentId(cell)
    const own = found.get(assessmentId) ?? new Map<string, number>()
    found.set(assessmentId, own.set(cells.studentId(cell), mark))
  }
  return found
}
