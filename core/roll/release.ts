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
