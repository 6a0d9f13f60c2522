import { appliesIn } from '#core/roll'
import { standingAfter, standingMarks, workingsOf, workingsSince, type Standing, type Workings } from '#core/trial'
import type { CourseWrites } from './course-writes'
import type { TableLoader } from './load-table'
import { keepLatest } from '../keep-latest'

type Table = ReturnType<TableLoader['load']>

export interface WorkedOut {
  table: Table
  workings: Workings
  standing: Standing
  applies: ReturnType<typeof appliesIn>
}

/** Courses whose marks are kept worked out: many students look at few courses at once. */
const MOST = 4

/** The marks of a course worked out once; what was written since is taken over cell by cell, as an open page does it. */
export function workedOut(tables: TableLoader, writes: Pick<CourseWrites, 'since'>) {
  const kept = new Map<string, WorkedOut>()

  function anew(table: Table): WorkedOut {
    const workings = workingsOf(table)
    return { table, workings, standing: standingMarks(workings), applies: appliesIn(table) }
  }
  /** Null where more has changed than marks and decisions. */
  function brought(was: WorkedOut, courseId: string, table: Table): WorkedOut | null {
    const since = writes.since(courseId, was.table.version)
    const cells = since && tables.cells(courseId, since.cells)
    const now = cells && workingsSince(was.workings, { cells, plan: since.plan ? table : null })
    if (!now) return null
    const { workings } = now
    if (since.plan) return { table, workings, standing: standingMarks(workings), applies: appliesIn(table) }
    const standing = standingAfter(was.standing, workings, now.cells) ?? standingMarks(workings)
    return { table, workings, standing, applies: was.applies }
  }

  return async (courseId: string): Promise<WorkedOut> => {
    const table = await tables.loadInTurns(courseId)
    const was = kept.get(courseId)
    const own = was?.table.version === table.version ? was : ((was && brought(was, courseId, table)) ?? anew(table))
    keepLatest(kept, courseId, own, MOST)
    return own
  }
}

export type WorkedOutMarks = ReturnType<typeof workedOut>
