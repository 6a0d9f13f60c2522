import { rationalOf, type Rational } from '../../grades/rational'

/** An adjustment that makes no sense; the message says what to do. */
export class AdjustmentError extends Error {
  override name = 'AdjustmentError'
}

/** From mark to mark, exactly. */
export type MarkMap = (mark: Rational) => Rational

export type Point = [mark: number, becomes: number]

/** A way to rescale: what it is called, what it does, where it starts, and its map. */
export interface Method<M> {
  title: string
  /** What it does, in a sentence. */
  says: string
  /** What it did to an assessment, for the record. */
  done: (method: M) => string
  /**
   * One that changes nothing yet, to start pulling from.
   * @param outOf what the assessment is marked out of
   * @param tick a step that suits an axis of that length
   */
  start: (outOf: number, tick: number) => M
  /**
   * @param marks those that it covers, for a way that depends on them
   * @throws AdjustmentError where it makes no sense
   */
  map: (method: M, marks: readonly number[]) => MarkMap
  /** The points that can be pulled; a way that has none leaves it out. */
  points?: { of: (method: M) => Point[]; put: (method: M, points: Point[]) => M }
}

export function finite(x: number): Rational {
  if (!Number.isFinite(x)) throw new AdjustmentError('An adjustment needs a number in every field.')
  return rationalOf(x)
}
