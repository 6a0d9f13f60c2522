import { over, rationalOf, roundToStep, times, toNumber } from '../grades/rational'
import type { Status } from '../grades/course'
import { whyNoMark } from '../marking/why-no-mark'
import { scaleValue, type Scale } from '../scales/scale'
import { shownDay, type Day, type Term } from '../roll/days'
import { daysLateOn } from '../roll/place-delivery'
import { readDay } from '../roll/read-day'

export interface CellCalendar {
  due: Day | null
  term: Term
}

/** What somebody typed into a cell of the mark sheet or of a file. */
export type CellText =
  | { kind: 'blank' }
  | { kind: 'mark'; mark: number; status: 'in' | 'late'; daysLate: number }
  | { kind: 'status'; status: Exclude<Status, 'in' | 'late'> }
  | { kind: 'late'; daysLate: number }
  | { kind: 'wrong'; reason: string }

const WORDS: Exclude<Status, 'in' | 'late'>[] = ['missing', 'absent', 'exempt', 'held']

/**
 * Reads a cell: a mark ("17", "17.5", "17,5"), a status ("missing", or its first letter), "late" with or without a
 * mark and with days or the day it came ("17 late 2", "late", "17 late 24 Nov"). A blank says nothing about the mark.
 * @param outOf what the assessment is marked out of
 * @param belowZero whether a mark may be a deduction
 * @param scale where the assessment is marked on one, a label of it stands for its percent; a label wins over a status of the same letter
 * @param calendar when it was due and in which term, so that a day stands for the days from the one to the other
 */
export function readCellText(
  text: string,
  outOf: number,
  belowZero = false,
  scale: Scale | null = null,
  calendar: CellCalendar | null = null,
): CellText {
  const typed = text.trim().toLowerCase()
  if (typed === '') return { kind: 'blank' }
  const labelled = (words: string) => (scale ? labelMark(scale, words, outOf) : null)
  const whole = labelled(typed)
  if (whole !== null) return { kind: 'mark', mark: whole, status: 'in', daysLate: 0 }
  const status = WORDS.find((w) => w === typed || (typed.length === 1 && w.startsWith(typed)))
  if (status) return { kind: 'status', status }
  const late = /^(.*?)\s*\b(?:late|l)\b\s*(.*)$/.exec(typed)
  const number = late ? late[1]!.trim() : typed
  const daysLate = late ? readDaysLate(late[2]!, calendar) : 0
  if (typeof daysLate === 'string') return { kind: 'wrong', reason: daysLate }
  if (late && number === '') return { kind: 'late', daysLate }
  const mark = labelled(number) ?? readMark(number, text.trim(), outOf, belowZero, scale)
  return typeof mark === 'string' ? { kind: 'wrong', reason: mark } : { kind: 'mark', mark, status: late ? 'late' : 'in', daysLate }
}

/** @returns days late, or a sentence that says what is wrong with them */
function readDaysLate(text: string, calendar: CellCalendar | null): number | string {
  const days = /^(\d{0,3})\s*(?:d|days?)?$/.exec(text)
  if (days) return Number(days[1] || '1')
  if (!calendar) return `“${text.slice(0, 40)}” is not a number of days: write late 2.`
  const read = readDay(text, calendar.term)
  if (typeof read === 'string' || read.kind !== 'day')
    return `“${text.slice(0, 40)}” is neither days nor a day: write late 2, or late 24 Nov.`
  if (calendar.due === null) return 'No due day is set here: write how many days late, as in late 2.'
  const late = daysLateOn(calendar.due, read.day)
  return late > 0 && late <= 366 ? late : `${shownDay(read.day)} is not after the due day, ${shownDay(calendar.due)}.`
}

/** @returns the mark, or a sentence that says what is wrong with it */
function readMark(written: string, shown: string, outOf: number, belowZero: boolean, scale: Scale | null): number | string {
  const quoted = shown.length > 40 ? `“${shown.slice(0, 40)}…”` : `“${shown}”`
  // In much of the world 17,5 is what is written. With three digits after it the comma may as well part thousands.
  if (outOf >= 1000 && /^[-−]?\d{1,3},\d{3}$/.test(written))
    return `${quoted} can be read in two ways: write ${written.replace(',', '.')}, or ${written.replace(',', '')}.`
  const number = /^[-−]?\d+,\d+$/.test(written) ? written.replace(',', '.') : written
  const percent = /^(\d+(?:\.\d+)?)\s*%$/.exec(number)?.[1]
  if (percent !== undefined) return `${quoted} is a percent: give the mark out of ${outOf}, which is ${markAt(Number(percent), outOf)}.`
  if (!/^[-−]?(\d+\.?\d*|\.\d+)$/.test(number))
    return `${quoted} is not a mark: give a number from 0 to ${outOf}${scale ? `, ${scale.labels.map((l) => l.label).join(', ')}` : ''}, or late, missing, absent, exempt or held.`
  const mark = Number(number.replace('−', '-'))
  if (Number((mark * 1000).toFixed(6)) % 1 !== 0) return `${quoted} has more than 3 decimals.`
  // Done or not done is checked when the mark is saved.
  return whyNoMark(mark, { outOf, bonus: belowZero, completion: false }) ?? mark
}

/** The mark that a label stands for, to three decimals; the label in full, or the first letters that no other begins with. */
function labelMark(scale: Scale, words: string, outOf: number): number | null {
  if (words === '') return null
  const begun = scale.labels.filter((l) => l.label.toLowerCase().startsWith(words))
  const percent = scaleValue(scale, words) ?? (begun.length === 1 && words.length > 1 ? begun[0]!.percent : null)
  if (percent === null) return null
  return markAt(percent, outOf)
}

/** The mark at a percent, to three decimals. */
const markAt = (percent: number, outOf: number): number =>
  toNumber(roundToStep(times(over(rationalOf(percent), rationalOf(100)), rationalOf(outOf)), rationalOf(0.001)))

/** How a cell is written, so that reading it gives the same again. */
export function writeCellText(cell: { mark: number | null; status: Status; daysLate: number }): string {
  const mark = cell.mark === null ? '' : String(cell.mark)
  if (cell.status === 'in') return mark
  if (cell.status === 'late') return `${mark} late ${cell.daysLate}`.trim()
  return cell.status
}
