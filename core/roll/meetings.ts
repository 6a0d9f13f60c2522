import { shiftDay, weekdayOf, type Day } from './days'

/** When a section meets: weekdays 1..7 from Monday; none where that is not known. */
export interface Meets {
  weekdays: readonly number[]
  firstDay: Day | null
}

/** Whether a section meets on a day. A section whose weekdays are not known meets on any of Monday to Friday. */
export function meetsOn(section: Meets, day: Day): boolean {
  if (section.firstDay !== null && day < section.firstDay) return false
  const weekday = weekdayOf(day)
  return section.weekdays.length === 0 ? weekday <= 5 : section.weekdays.includes(weekday)
}

/**
 * The first meeting of a section on or after a day. Where the section starts later than a week after it, that is
 * its first meeting of all.
 */
export function firstMeeting(section: Meets, onOrAfter: Day): Day {
  let day = section.firstDay !== null && section.firstDay > onOrAfter ? section.firstDay : onOrAfter
  while (!meetsOn(section, day)) day = shiftDay(day, 1)
  return day
}
