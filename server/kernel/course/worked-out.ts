import { standingMarks, workingsOf, type Standing, type Workings } from '#core/trial'
import type { TableLoader } from './load-table'

interface WorkedOut {
  version: number
  workings: Workings
  standing: Standing
}

/** Courses whose marks are kept worked out: many students look at few courses at once. */
const MOST = 4

/** The marks of a course worked out, once for as long as nothing is written to it. */
export function workedOut(tables: TableLoader) {
  const kept = new Map<string, WorkedOut>()
  return async (courseId: string): Promise<WorkedOut & { table: ReturnType<TableLoader['load']> }> => {
    const table = await tables.loadInTurns(courseId)
    let own = kept.get(courseId)
    if (own?.version !== table.version) {
      const workings = workingsOf(table)
      own = { version: table.version, workings, standing: standingMarks(workings) }
    }
    // The one that was asked for longest ago goes first.
    kept.delete(courseId)
    kept.set(courseId, own)
    if (kept.size > MOST) kept.delete(kept.keys().next().value!)
    return { ...own, table }
  }
}

export type WorkedOutMarks = ReturnType<typeof workedOut>
