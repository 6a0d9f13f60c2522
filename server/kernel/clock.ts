import { dayAt, type Day } from '#core/roll'

/** What time it is for an installation, asked here alone. */
export interface Clock {
  /** As ISO 8601 in UTC. */
  now: () => string
  /** In the installation's time zone. */
  today: () => Day
  /** The day of a moment, in the installation's time zone. */
  dayOf: (moment: string) => Day
  timeZone: string
}

/** @throws RangeError for a time zone that nobody knows */
export function clockIn(timeZone: string, now: () => Date = () => new Date()): Clock {
  dayAt(now(), timeZone)
  return {
    now: () => now().toISOString(),
    today: () => dayAt(now(), timeZone),
    dayOf: (moment) => dayAt(new Date(moment), timeZone),
    timeZone,
  }
}

/** The time zone that the machine is set to. */
export const machineZone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone
