import { formatISO, isValid, parse } from 'date-fns'
import type { LayOut } from './lay-out'
import { daysBetween, teachingWeek, type Term } from './days'

const FORMS = ['yyyy-MM-dd', 'd MMM yyyy', 'd MMMM yyyy', 'd.M.yyyy', 'd/M/yyyy', 'yyyy/M/d']
const WITHOUT_YEAR = ['d MMM', 'd MMMM', 'd.M.', 'd.M', 'd/M', 'MMM d', 'MMMM d']

/**
 * What somebody typed for a due day: a date in ISO or with the day first ("12 Oct", "12.10.", "2026-10-12"), or a
 * teaching week ("w6": each section's first meeting in it). A date without a year is put nearest to the term.
 * @returns a sentence where it is neither
 */
export function readDay(text: string, term: Term): LayOut | string {
  const typed = text
    .trim()
    .replace(/^(mon|tue|wed|thu|fri|sat|sun)[a-z]*,?\s+/i, '')
    .replace(/\s+/g, ' ')
  const week = /^(?:w|wk|week)\s*(\d{1,2})$/i.exec(typed)
  if (week) {
    const last = teachingWeek(term, term.lastDay)
    const number = Number(week[1])
    return number >= 1 && number <= last ? { kind: 'week', week: number } : `The term has weeks 1 to ${last}.`
  }
  const year = Number(term.firstDay.slice(0, 4))
  const read = (value: string, form: string) => {
    const date = parse(value, form, new Date(year, 0, 1))
    return isValid(date) && date.getFullYear() > 1900 ? formatISO(date, { representation: 'date' }) : null
  }
  for (const form of FORMS) {
    const day = read(typed, form)
    if (day) return { kind: 'day', day }
  }
  for (const form of WITHOUT_YEAR) {
    const day = read(typed, form)
    if (!day) continue
    const years = [0, 1, -1].map((by) => `${year + by}${day.slice(4)}`)
    const away = (d: string) => (d >= term.firstDay && d <= term.lastDay ? 0 : Math.abs(daysBetween(term.firstDay, d)))
    return { kind: 'day', day: years.sort((a, b) => away(a) - away(b))[0]! }
  }
  return `“${text.trim().slice(0, 40)}” is not a day: write 12 Oct, ${term.firstDay}, or w6 for each section’s first meeting in week 6.`
}
