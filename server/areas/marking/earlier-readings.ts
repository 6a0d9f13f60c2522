import type { EarlierReading } from '#contract'
import type { Db } from '../../kernel/db/open'

/** What a reading was before it was as it is. */
export function earlierReadings(db: Db) {
  const all = db.prepare<[string], Omit<EarlierReading, 'afterSeeing'> & { afterSeeing: 0 | 1 }>(
    `SELECT at AS replacedAt, mark, attempt, state, after_seeing AS afterSeeing FROM reading_state
     WHERE reading_id = ? ORDER BY version DESC LIMIT 200`,
  )
  const everyState = (readingId: string): EarlierReading[] => all.all(readingId).map((r) => ({ ...r, afterSeeing: !!r.afterSeeing }))
  return {
    everyState,
    /** With which marks it was handed in. */
    earlier: (readingId: string): EarlierReading[] => everyState(readingId).filter((r) => r.state === 'handed in'),
  }
}
