import type { Status } from '../grades/course'

/** What decides whether a student may hand work in here. */
export interface HandingIn {
  /** Whether the assessment takes work in this way. */
  wanted: boolean
  /** It is set for this student. */
  applies: boolean
  status: Status | null
  /** Its mark can be seen. */
  released: boolean
  confirmed: boolean
}

/** Why work cannot be handed in, in a sentence to the student; null where it can. */
export function whyNotHandedIn({ wanted, applies, status, released, confirmed }: HandingIn): string | null {
  if (!wanted) return 'This work is not handed in here.'
  if (!applies) return 'This work is not set for you.'
  if (confirmed) return 'The results of the course are confirmed: nothing more is taken in.'
  if (status === 'exempt' || status === 'absent') return `You are ${status} for this work.`
  if (released) return 'It has come back already: ask about the mark, or speak to who marked it.'
  return null
}
