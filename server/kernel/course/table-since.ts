import type { Role, TableSince } from '#contract'
import type { CourseWrites } from './course-writes'
import type { TableLoader } from './load-table'

/** Tells what of a course’s table was written since a version, for whoever may see all of it; null where that is not enough. */
export const tableSince =
  (tables: TableLoader, writes: CourseWrites) =>
  (courseId: string, version: number, role: Role): TableSince => {
    const since = writes.since(courseId, version)
    if (!since) return null
    const { scripts: _, readings: __, ...plan } = tables.load(courseId)
    return {
      version: plan.version,
      hasMarks: plan.hasMarks,
      cells: tables.cells(courseId, since.cells),
      plan: since.plan ? { ...plan, head: { ...plan.head, role } } : null,
    }
  }
