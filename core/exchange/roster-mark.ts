import type { Status } from '../grades/course'

/** A mark as it counts, and as it was marked where it was rescaled since. */
export interface MarkInRoster {
  mark: number | null
  plain?: number | null | undefined
  status: Status
  daysLate: number
  /** What it counts and what lateness took of it, where that is known. */
  counted?: { counts: number | null; late: number } | undefined
}

const inFile = (mark: number | null | undefined): string => (mark === null || mark === undefined ? '' : String(Number(mark.toFixed(3))))

/** What a mark is in the columns of results.csv (OneRoster 1.2); what the standard has no word for stands in metadata. */
export function markInRoster({ mark, plain, status, daysLate, counted }: MarkInRoster): Record<string, string> {
  const gone = status === 'missing' || status === 'absent'
  return {
    scoreStatus:
      status === 'exempt' ? 'exempt' : gone ? 'not submitted' : mark === null || status === 'held' ? 'submitted' : 'fully graded',
    score: inFile(counted ? counted.counts : mark),
    late: String(status === 'late'),
    missing: String(status === 'missing'),
    'metadata.status': status === 'in' ? '' : status,
    'metadata.daysLate': daysLate > 0 ? String(daysLate) : '',
    'metadata.scoreAsMarked': inFile(plain ?? (counted?.late ? mark : null)),
    'metadata.takenForLateness': counted?.late ? inFile(counted.late) : '',
  }
}
