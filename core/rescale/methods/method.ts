import { rationalOf, type Rational } from '../../grades/rational'

/** An adjustment that makes no sense; the message says what to do. */
export class AdjustmentError extends Error {
  override name = 'AdjustmentError'
}

/** From mark to mark, exactly. */
export type MarkMap = (mark: Rational) => Rational

/** From a marker’s reading of a script to what it counts as; null for one that it says nothing of. A person’s own mark has no marker. */
export type ReadingMap = (of: { scriptId: string; markerId: string | null }, mark: Rational) => Rational | null

export type Point = [mark: number, becomes: number]

/** What a way to rescale is called and what it does, in sentences. */
export interface Told<M> {
  title: string
  /** What it does, in a sentence. */
  says: string
  /** What it takes for granted. */
  assumes: string
  /** When another way serves better. */
  notWhen: string
  /** What it did to an assessment, for the record. */
  done: (method: M, called: { marker: (id: string) => string }) => string
  anew?: Anew<M>
}

/** The marks that a way is tried on. */
export interface Covered {
  /** What they are out of: 100 for the course percent. */
  outOf: number
  /** A step that suits an axis of that length. */
  tick: number
  marks: readonly number[]
}

/** What the figures of a way are taken from. */
export interface TakenFrom {
  covered: readonly number[]
  /** The marks of the group it matches; null where those are not known. */
  like: readonly number[] | null
  /** How a marker leans by all readings there are; null where that cannot be told. */
  leanOf: (markerId: string) => number | null
}

/** A way that acts on marks once they are agreed. */
export interface MarkMethod<M> extends Told<M> {
  acts: 'marks'
  /** One that changes nothing yet, to start from. */
  start: (of: Covered) => M
  /**
   * @param marks those that it covers, for a way that was not fixed by them
   * @throws AdjustmentError where it makes no sense
   */
  map: (method: M, marks: readonly number[]) => MarkMap
  /** The same where marks are out of so many times as much; what it was fixed by is taken anew there. */
  scaled: (method: M, by: number) => M
  /** The points that can be pulled; a way that has none leaves it out. */
  points?: { read: (method: M) => Point[]; put: (method: M, points: Point[]) => M }
}

/** A way that acts on readings before they are agreed. */
export interface ReadingMethod<M> extends Told<M> {
  acts: 'readings'
  /** @throws AdjustmentError where it makes no sense */
  reading: (method: M) => ReadingMap
}

/**
 * A way that was fixed by the figures there were: the same by those there are now, and what that would be in words.
 * @returns null where its figures still fit, or cannot be told */
export type Anew<M> = (method: M, now: TakenFrom) => { method: M; words: string } | null

export function finite(x: number): Rational {
  if (!Number.isFinite(x)) throw new AdjustmentError('An adjustment needs a number in every field.')
  return rationalOf(x)
}

/** A mark on another scale, to three decimals. */
export const onScale = (x: number, by: number): number => Number((x * by).toFixed(3))
export const pointsOnScale = (points: readonly Point[], by: number): Point[] => points.map(([x, y]) => [onScale(x, by), onScale(y, by)])

/** Figures this near are the same. */
export const SAME = 0.005
/** A figure in a sentence. */
export const figure = (x: number): string => String(Number(x.toFixed(2))).replace('-', '−')
