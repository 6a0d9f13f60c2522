import { decidesOtherwise, type Change } from '#core/trial'
import type { DecidedMeanwhile } from '#contract'
import type { DecidedSince } from '../../kernel/course/decisions'

/**
 * What was decided since each change was tried, about the same: adopting it would replace that unseen.
 * @param since by change, the version of the course that it was tried on
 * @param decided what was decided, or taken back, since the earliest of them; the latest first
 * @param called what one change did, in words, and whose script it is about
 */
export function decidedMeanwhile(
  changes: readonly Change[],
  since: readonly (number | null)[],
  decided: readonly DecidedSince[],
  called: { words: (c: Change) => string; studentOf: (c: Change) => string | null },
): DecidedMeanwhile['decided'] {
  const found: DecidedMeanwhile['decided'] = []
  changes.forEach((change, place) => {
    const on = since[place] ?? null
    if (on === null) return
    for (const d of decided) {
      const [newer, back] = [d.made > on, d.takenBack !== null && d.takenBack > on]
      // Made and taken back meanwhile is as if it had never been.
      if (newer === back) continue
      const same = d.changes.find((c) => decidesOtherwise(change, c))
      if (!same) continue
      const what = same.kind === 'settle' ? `${called.words(same)}, at ${same.mark}` : called.words(same)
      const words = newer ? `${what}; ${d.by}` : `${what}; taken back by ${d.withdrawn!.by}`
      found.push({ place, words, studentId: called.studentOf(change) })
      break
    }
  })
  return found
}
