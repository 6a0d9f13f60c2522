import type { QueueRow } from './queue-rows'

/** Which rows of the queue are shown; an empty text is no matter which. */
export interface Filter {
  sectionId: string
  /** A marker, or two with a blank between: read by both. */
  readBy: string
}

export const NO_FILTER: Filter = { sectionId: '', readBy: '' }

/** @param students those carried here; null for no matter who */
export function narrowed(
  rows: QueueRow[],
  { sectionId, readBy, students }: Filter & { students: ReadonlySet<string> | null },
  sectionOf: ReadonlyMap<string, string>,
): QueueRow[] {
  const readers = readBy === '' ? [] : readBy.split(' ')
  if (sectionId === '' && readers.length === 0 && students === null) return rows
  return rows.filter(
    (r) =>
      (sectionId === '' || sectionOf.get(r.studentId) === sectionId) &&
      readers.every((id) => r.readings.some((x) => x.markerId === id)) &&
      (students === null || students.has(r.studentId)),
  )
}
