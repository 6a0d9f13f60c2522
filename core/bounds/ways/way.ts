import type { CourseResult } from '../../grades/course'
import type { Draws } from '../../compare/resampled'

/** A line that a way suggests. */
export interface SuggestedLine {
  grade: string
  /** Percent; null where there is none, and `why` says why not. */
  from: number | null
  why: string | null
  /** Any limit above the first and up to the second gives everyone the same grade. */
  same: [above: number, upTo: number] | null
  /** The middle 95% of what samples of the same students give; null where too few of them give any. */
  band: [low: number, high: number] | null
  /** How many students or judgements it rests on. */
  n: number
  /** What it was read off, where that is a curve: of the chance to be able, or of the percent, against percent or judgement. */
  curve: { intercept: number; slope: number } | null
}

/** One way to suggest where grades begin. */
export interface Way<A> {
  suggest: (result: CourseResult, asked: A, draws: Draws) => SuggestedLine[]
}

export const noLine = (grade: string, n: number, why: string): SuggestedLine => ({
  grade,
  from: null,
  why,
  same: null,
  band: null,
  n,
  curve: null,
})
