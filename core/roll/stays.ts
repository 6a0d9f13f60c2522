import { shiftDay, shownDay, type Day } from './days'

/** A student's time in a section, both days included; `to` is null while it lasts. */
export interface Stay {
  sectionId: string
  from: Day
  to: Day | null
}

/** A student's times in sections contradict each other; the message says how and what to do. */
export class StayError extends Error {
  constructor(message: string) {
    super(message)
    this.name = 'StayError'
  }
}

/** The section a student is in now: the one that has not ended. */
export const currentSection = (stays: readonly Stay[]): string | null => stays.find((s) => s.to === null)?.sectionId ?? null

/** The section a student was in on a day; null before the first and after the last. */
export const sectionOn = (stays: readonly Stay[], day: Day): string | null =>
  stays.find((s) => s.from <= day && (s.to === null || s.to >= day))?.sectionId ?? null

/**
 * The stays with the student in another section from a day on, or in none (`sectionId` null: withdrawn).
 * A withdrawn student comes back the same way.
 * @throws StayError where the day lies before what is already over, or nothing would change
 */
export function moveFrom(stays: readonly Stay[], sectionId: string | null, from: Day): Stay[] {
  const current = stays.find((s) => s.to === null)
  if ((current?.sectionId ?? null) === sectionId)
    throw new StayError(sectionId === null ? 'The student has left already.' : 'The student is in this section already.')
  const over = stays.filter((s) => s !== current)
  const last = over.reduce<Day>((latest, s) => (s.to! > latest ? s.to! : latest), '')
  const earliest = current ? current.from : last === '' ? '' : shiftDay(last, 1)
  if (from < earliest) throw new StayError(`Give a day from ${shownDay(earliest)} on: the student was somewhere else before.`)
  const kept = [...over]
  // Moved on the very first day, the student was never in the first section.
  if (current && from > current.from) kept.push({ ...current, to: shiftDay(from, -1) })
  if (sectionId !== null) kept.push({ sectionId, from, to: null })
  if (kept.length === 0) throw new StayError(`Give a day after ${shownDay(from)}: the student would never have been here.`)
  return kept.sort((a, b) => (a.from < b.from ? -1 : 1))
}

/**
 * Checks a whole list of stays: in order, none overlapping, at most one that lasts.
 * @throws StayError naming the first that does not fit
 */
export function checkStays(stays: readonly Stay[]): void {
  if (stays.length === 0) throw new StayError('A student on the roll has been in a section at least once.')
  stays.forEach((s, i) => {
    const before = stays[i - 1]
    if (s.to !== null && s.to < s.from) throw new StayError(`A stay from ${shownDay(s.from)} ends before it begins, on ${shownDay(s.to)}.`)
    if (before && (before.to === null || before.to >= s.from))
      throw new StayError(
        `A stay begins on ${shownDay(s.from)} while the one before it lasts until ${before.to ? shownDay(before.to) : 'now'}.`,
      )
  })
}
