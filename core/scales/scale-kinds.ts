import { halfwayThresholds } from './check-scale'
import type { Scale } from './scale'

const MOST_POINTS = 100

/**
 * Points 0 to n as labels, evenly spaced, each read back from halfway to the one below.
 * @param n whole, 1 to 100
 * @throws RangeError for any other n
 */
export function pointsScale(n: number): Scale {
  if (!Number.isInteger(n) || n < 1 || n > MOST_POINTS) throw new RangeError(`Points from 0 to a whole number, 1 to ${MOST_POINTS}.`)
  // So fine that points give themselves back as a mark, which has three decimals.
  const percentOf = (points: number) => Number(((100 * points) / n).toFixed(6))
  return halfwayThresholds({ labels: Array.from({ length: n + 1 }, (_, i) => ({ label: String(i), percent: percentOf(i), threshold: 0 })) })
}

const of = (...labels: [label: string, percent: number][]): Scale =>
  halfwayThresholds({ labels: labels.map(([label, percent]) => ({ label, percent, threshold: 0 })) })

/** Words for a judgement of the whole. */
export const judgementScale = (): Scale => of(['not yet', 30], ['sound', 60], ['strong', 85])

/** Done gives everything, not done nothing; only what is wholly done is read back as done. */
export const doneScale = (): Scale => ({
  labels: [
    { label: 'not done', percent: 0, threshold: 0 },
    { label: 'done', percent: 100, threshold: 100 },
  ],
})

/**
 * The grades of a course as a scale: each stands for the middle of the percents that get it, and is read back from its boundary.
 * @param boundaries grade and the percent it begins at, in any order
 */
export function gradesScale(boundaries: readonly { grade: string; from: number }[]): Scale {
  const rising = [...boundaries].sort((a, b) => a.from - b.from)
  return {
    labels: rising.map(({ grade, from }, i) => ({
      label: grade,
      percent: Number(((from + (rising[i + 1]?.from ?? 100)) / 2).toFixed(2)),
      threshold: from,
    })),
  }
}
