import type { MarkScheme, Picks, Rubric } from '../../scales/rubric'
import type { Scale } from '../../scales/scale'

/** What somebody judges a script to be: by criteria, by a label, or as a mark. */
export interface Judged {
  picks: Picks
  judgement: string | null
  /** Where there is no standard to reckon it from. */
  mark: number | null
}

/** A judgement that does not fit what one marks by, or is not whole; the message is for whoever judges. */
export class JudgedError extends Error {
  override name = 'JudgedError'
  constructor(
    message: string,
    readonly field: keyof Judged,
  ) {
    super(message)
  }
}

/** What one can mark by. */
export type StandardOf = { kind: 'rubric'; body: Rubric } | { kind: 'scheme'; body: MarkScheme } | { kind: 'scale'; body: Scale }

/** A way of marking: everything the product knows of it. */
export interface Way<Body> {
  title: string
  /** What is not judged yet, by title. */
  unjudged: (judged: Judged, body: Body) => string[]
  /** What to say, and where, to somebody who would hand in what is not judged whole. */
  asks: (unjudged: readonly string[]) => JudgedError
  /** @throws JudgedError for what does not fit, whether it is whole or not */
  check: (judged: Judged, body: Body, outOf: number) => void
  /** The mark of what is judged and fits; what is not judged gives nothing. Null where nothing can follow. */
  mark: (judged: Judged, body: Body, outOf: number) => number | null
  /** Of what was sent, that which this way keeps. */
  keeps: (judged: Judged) => Pick<Judged, 'picks' | 'judgement'>
}
