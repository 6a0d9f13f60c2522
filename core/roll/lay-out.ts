import { dayInWeek, shiftDay, type Day, type Term } from './days'
import { firstMeeting, type Meets } from './meetings'

/** A way to give a day to many placements at once. */
export type LayOut =
  | { kind: 'day'; day: Day }
  /** The first meeting of each section on or after a day. */
  | { kind: 'first meeting'; onOrAfter: Day }
  /** The first meeting of each section in a teaching week. */
  | { kind: 'week'; week: number }
  | { kind: 'shift'; days: number }

export interface LaidOut {
  /** Section id → its day. */
  days: Map<string, Day>
  /** Sections left out because they have not started by then. */
  notStarted: string[]
}

/**
 * Days for several sections, each by its own meetings. A given day or week leaves out the sections that start
 * only after it. Shifting moves only what has a day.
 */
export function layOut(how: LayOut, sections: readonly (Meets & { id: string; due: Day | null })[], term: Pick<Term, 'firstDay'>): LaidOut {
  const laid: LaidOut = { days: new Map(), notStarted: [] }
  for (const s of sections) {
    if (how.kind === 'shift') {
      if (s.due !== null) laid.days.set(s.id, shiftDay(s.due, how.days))
      continue
    }
    const wanted = how.kind === 'day' ? how.day : how.kind === 'week' ? dayInWeek(term, how.week, 7) : how.onOrAfter
    if (how.kind !== 'first meeting' && s.firstDay !== null && s.firstDay > wanted) laid.notStarted.push(s.id)
    else if (how.kind === 'day') laid.days.set(s.id, how.day)
    else laid.days.set(s.id, firstMeeting(s, how.kind === 'week' ? dayInWeek(term, how.week, 1) : how.onOrAfter))
  }
  return laid
}
