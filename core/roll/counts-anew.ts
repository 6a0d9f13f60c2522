import type { Status } from '../grades/course'

/** What was known of a script before a version of it came. */
export interface BeforeIt {
  status: Status
  /** Typed; null where nothing was. */
  entered: number | null
  /** Somebody has handed a reading in. */
  read: boolean | number
}

/**
 * How a script counts from now on, where somebody has marked an earlier version or it was taken for missing: the latest version counts.
 * @returns null where nobody has to be told
 */
export function countsAnew({ status, entered, read }: BeforeIt, daysLate: number): string | null {
  const now = daysLate === 0 ? 'as in time' : `as late by ${daysLate} ${daysLate === 1 ? 'day' : 'days'}`
  if (status === 'missing' || status === 'absent') return `It was ${status}: it counts ${now}.`
  if (!read && entered === null) return null
  return `An earlier version was ${read ? 'read' : 'marked'}: it counts ${now}.`
}
