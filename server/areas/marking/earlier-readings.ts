import type { EarlierReading } from '#contract'
import type { Db } from '../../db/open'

/** With which marks a reading was handed in before it was as it is. */
export function earlierReadings(db: Db) {
  const all = db.prepare<[string], EarlierReading>(
    "SELECT at AS replacedAt, mark, attempt FROM reading_state WHERE reading_id = ? AND state = 'handed in' ORDER BY version DESC",
  )
  return { earlier: (readingId: string) => all.all(readingId) }
}
