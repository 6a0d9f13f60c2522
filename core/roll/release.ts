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
export function isReleased(release: Release, at: { today: Day; due: Day | null; confirmed: boolean }): boolean {
  switch (release.kind) {
    case 'at once':
      return true
    case 'on':
      return at.today >= release.day
    case 'days':
      return at.due !== null && at.today >= shiftDay(at.due, release.days)
    case 'confirmed':
      return at.confirmed
    case 'by hand':
      return release.released
  }
}

/** The day since when students have been able to see a mark: it is out, and it is there. Null where neither day is known. */
export function releasedSince(
  release: Release,
  at: { due: Day | null; confirmedOn: Day | null; letOutOn: Day | null; markedOn: Day | null },
): Day | null {
  const out: Record<Release['kind'], () => Day | null> = {
    'at once': () => null,
    on: () => (release as { day: Day }).day,
    days: () => at.due && shiftDay(at.due, (release as { days: number }).days),
    confirmed: () => at.confirmedOn,
    'by hand': () => at.letOutOn,
  }
  return max([out[release.kind](), at.markedOn].filter((d) => d !== null)) ?? null
}
