import { max } from 'd3-array'
import { shiftDay, type Day } from './days'

/** When students may see what came of a placement. */
export type Release =
  | { kind: 'at once' }
  | { kind: 'on'; day: Day }
  /** Days after the due day; before it where negative. */
  | { kind: 'days'; days: number }
  | { kind: 'confirmed' }
  | { kind: 'by hand'; released: boolean }

/** Whether students may see it on a day. A rule that counts from a due day that is not set releases nothing. */
export function isReleased(release: Release, days: { today: Day; due: Day | null; confirmed: boolean }): boolean {
  switch (release.kind) {
    case 'at once':
      return true
    case 'on':
      return days.today >= release.day
    case 'days':
      return days.due !== null && days.today >= shiftDay(days.due, release.days)
    case 'confirmed':
      return days.confirmed
    case 'by hand':
      return release.released
  }
}

/** The day since when students have been able to see a mark: it is out, and it is there. Null where neither day is known. */
export function releasedSince(
  release: Release,
  days: { due: Day | null; confirmedOn: Day | null; letOutOn: Day | null; markedOn: Day | null },
): Day | null {
  const out: Record<Release['kind'], () => Day | null> = {
    'at once': () => null,
    on: () => (release as { day: Day }).day,
    days: () => days.due && shiftDay(days.due, (release as { days: number }).days),
    confirmed: () => days.confirmedOn,
    'by hand': () => days.letOutOn,
  }
  return max([out[release.kind](), days.markedOn].filter((d) => d !== null)) ?? null
}
