import type { Scale } from '../scales/scale'
import { levelInProportion } from './level-of'

const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase()

/**
 * The labels of a scale that levels are read off as, where nobody said which: those of the same names if that keeps their order, else
 * in proportion, the lower of two that are equally near.
 * @param levels names of the levels, from the lowest up
 * @returns a place in `labels` for each level, from 0, none below the one before
 */
export function labelsOfLevels(levels: readonly string[], labels: readonly string[]): number[] {
  const named = levels.map((level) => labels.findIndex((l) => same(l, level)))
  if (named.every((place, i) => place >= 0 && place >= (named[i - 1] ?? 0))) return named
  return levels.map((_, place) => levelInProportion(place, levels.length, labels.length) - 1)
}

/** @returns what each level is worth in percent, being read off as these labels; null where one of them is none of the scale's */
export function percentsReadOff({ labels }: Scale, places: readonly number[]): number[] | null {
  const percents = places.map((p) => labels[p]?.percent)
  return percents.some((p) => p === undefined) ? null : (percents as number[])
}
