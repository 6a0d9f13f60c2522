import { format, parseISO } from 'date-fns'

/** A calendar day as ISO 8601, `2026-10-12`. Days have no time and no zone; reckoning from day to day is in UTC, so that no summer time gets in its way. */
export type Day = string

/** First and last teaching day of a course. */
export interface Term {
  firstDay: Day
  lastDay: Day
}

const MS = 86_400_000
const iso = (ms: number): Day => new Date(ms).toISOString().slice(0, 10)

const formats = new Map<string, Intl.DateTimeFormat>()

/**
 * The calendar day that a moment lies in, in a time zone (IANA, `Europe/Lisbon`).
 * @throws RangeError for a zone that nobody knows
 */
export function dayAt(moment: Date, timeZone: string): Day {
  let format = formats.get(timeZone)
  if (!format) {
    // Swedish writes days as ISO 8601 does.
    format = new Intl.DateTimeFormat('sv-SE', { timeZone, year: 'numeric', month: '2-digit', day: '2-digit' })
    formats.set(timeZone, format)
  }
  return format.format(moment)
}

/** A day as the product shows days: `2026-10-12` is 12 Oct 2026. */
export const shownDay = (day: Day): string => format(parseISO(day), 'd MMM yyyy')

/** The day `by` days later (earlier where negative). */
export const shiftDay = (day: Day, by: number): Day => iso(Date.parse(day) + by * MS)

/** 1 for Monday to 7 for Sunday (ISO 8601). */
export const weekdayOf = (day: Day): number => new Date(Date.parse(day)).getUTCDay() || 7

/** Days from one day to another; negative where `to` comes first. */
export const daysBetween = (from: Day, to: Day): number => (Date.parse(to) - Date.parse(from)) / MS

const mondayOf = (day: Day): Day => shiftDay(day, 1 - weekdayOf(day))

/** The teaching week a day lies in: 1 is the calendar week, Monday to Sunday, of the term's first day; 0 and below come before it. */
export const teachingWeek = (term: Pick<Term, 'firstDay'>, day: Day): number => daysBetween(mondayOf(term.firstDay), mondayOf(day)) / 7 + 1

/** The day of a weekday (1..7) in a teaching week. */
export const dayInWeek = (term: Pick<Term, 'firstDay'>, week: number, weekday: number): Day =>
  shiftDay(mondayOf(term.firstDay), (week - 1) * 7 + weekday - 1)

/** The day at the same teaching week and weekday of another term. */
export const sameDayInTerm = (day: Day, from: Term, to: Term): Day => dayInWeek(to, teachingWeek(from, day), weekdayOf(day))
