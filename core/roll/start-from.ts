import { sameDayInTerm, shiftDay, weekdayOf, type Day, type Term } from './days'
import { firstMeeting, meetsOn, type Meets } from './meetings'
import type { Release } from './release'

/**
 * A due day moved to another term: the same teaching week and weekday; where the section does not meet then, its
 * first meeting after it.
 */
export function movedDue(due: Day, from: Term, to: Term, section: Meets): Day {
  const same = sameDayInTerm(due, from, to)
  return meetsOn(section, same) ? same : firstMeeting(section, same)
}

/** A section's first day moved to another term by teaching week and weekday; never before the term begins. */
export function movedFirstDay(firstDay: Day, from: Term, to: Term, weekdays: readonly number[]): Day {
  let day = sameDayInTerm(firstDay, from, to)
  while (day < to.firstDay || (weekdays.length > 0 && !weekdays.includes(weekdayOf(day)))) day = shiftDay(day, 1)
  return day
}

/** A release rule for another term; what was released by hand is not. */
export function movedRelease(release: Release, from: Term, to: Term): Release {
  if (release.kind === 'on') return { kind: 'on', day: sameDayInTerm(release.day, from, to) }
  return release.kind === 'by hand' ? { kind: 'by hand', released: false } : release
}
