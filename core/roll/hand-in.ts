import type { Status } from '../grades/course'

/** What decides whether a student may hand work in here. */
export interface HandingIn {
  /** Whether the assessment takes work in this way. */
  wanted: boolean
  /** It is set for this student. */
  applies: boolean
  status: Status | null
  /** Versions that were handed in so far, and the bytes of all of them. */
  times: number
  bytes: number
  /** Its mark can be seen. */
  released: boolean
  confirmed: boolean
}

/** Versions of one work that are taken from a student, and their bytes together. */
export const MOST_HAND_INS = 10
export const MOST_HAND_IN_BYTES = 40_000_000

/** Why work cannot be handed in, in a sentence to the student; null where it can. */
export function whyNotHandedIn({ wanted, applies, status, times, bytes, released, confirmed }: HandingIn): string | null {
  if (!wanted) return 'This work is not handed in here.'
  if (!applies) return 'This work is not set for you.'
  if (confirmed) return 'The results of the course are confirmed: nothing more is taken in.'
  if (status === 'exempt' || status === 'absent') return `You are ${status} for this work.`
  if (released) return 'It has come back already: ask about the mark, or speak to who marked it.'
  if (times >= MOST_HAND_INS)
    return `You have handed in ${times} versions, and ${MOST_HAND_INS} are taken: speak to your teacher if the latest is not the right one.`
  if (bytes >= MOST_HAND_IN_BYTES)
    return `Your versions of this work fill the ${MOST_HAND_IN_BYTES / 1e6} MB that are kept of it: speak to your teacher if the latest is not the right one.`
  return null
}

/** Why one more file is too much beside the versions so far, in a sentence to the student; null where it is not. */
export const whyTooMuch = (so: { bytes: number }, file: { bytes: number }): string | null =>
  so.bytes + file.bytes <= MOST_HAND_IN_BYTES
    ? null
    : `With this file your versions come to ${Math.ceil((so.bytes + file.bytes) / 1e6)} MB, and ${MOST_HAND_IN_BYTES / 1e6} MB are kept: save it smaller, as a PDF without large pictures.`
