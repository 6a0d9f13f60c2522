import type { QueueRow } from './queue'

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

/** Pairs of markers who read scripts of the queue together, each with how many, the most first. */
export function pairsOf(rows: readonly QueueRow[]): { a: string; b: string; scripts: number }[] {
  const count = new Map<string, number>()
  for (const { readings } of rows) {
    const ids = readings.map((r) => r.markerId).sort()
    ids.forEach((b, i) => ids.slice(0, i).forEach((a) => count.set(`${a} ${b}`, (count.get(`${a} ${b}`) ?? 0) + 1)))
  }
  return [...count]
    .sort((x, y) => y[1] - x[1])
    .map(([pair, scripts]) => {
      const [a, b] = pair.split(' ') as [string, string]
      return { a, b, scripts }
    })
}
