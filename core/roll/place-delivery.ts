import type { Status } from '../grades/course'
import { daysBetween, type Day } from './days'

/** A piece of work as the submission box hands it over. */
export interface Delivery {
  /** What the box says: candidate number and title of an assessment, as they were typed. */
  candidate: string
  assessment: string
  kind: 'text' | 'pdf' | 'other'
  /** The day it came. */
  day: Day
  hash: string
}

/** What is known of the script that a delivery is meant for. */
export interface Expected {
  studentId: string
  assessmentId: string
  title: string
  applies: boolean
  due: Day | null
  status: Status
  /** Content hashes of the attempts so far, the latest last. */
  hashes: readonly string[]
  /** Attempts so far, those without a file included. */
  attempts: number
}

export type Placing =
  | { kind: 'place'; studentId: string; assessmentId: string; attempt: number; daysLate: number }
  | { kind: 'wait'; why: string }
  | { kind: 'set aside'; why: string }

/**
 * Where a delivery belongs: the next attempt at a script, or among what waits to be sorted by hand, with why. The same file as the latest
 * one is no attempt.
 * @param expected what its candidate and assessment lead to; a sentence where they lead nowhere
 */
export function placeDelivery(delivery: Delivery, expected: Expected | string): Placing {
  if (delivery.kind === 'other') return { kind: 'wait', why: 'It is neither text nor PDF: ask for it in one of the two.' }
  if (typeof expected === 'string') return { kind: 'wait', why: expected }
  const { studentId, assessmentId, title, status, due, hashes } = expected
  if (!expected.applies) return { kind: 'wait', why: `${title} is not set for this student.` }
  if (status === 'exempt' || status === 'absent') return { kind: 'wait', why: `This student is ${status} for ${title}.` }
  // An earlier version handed in again is the latest by that.
  if (hashes.at(-1) === delivery.hash) return { kind: 'set aside', why: 'The same file came before.' }
  return { kind: 'place', studentId, assessmentId, attempt: expected.attempts + 1, daysLate: daysLateOn(due, delivery.day) }
}

/** Whole days after the due day; 0 where it came in time or no day is set. */
export const daysLateOn = (due: Day | null, came: Day): number => (due === null ? 0 : Math.max(0, daysBetween(due, came)))
