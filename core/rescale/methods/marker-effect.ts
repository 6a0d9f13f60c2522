import { minus, times } from '../../grades/rational'
import { AdjustmentError, figure, finite, SAME, type ReadingMethod } from './method'

export interface MarkerEffect {
  kind: 'markerEffect'
  markerId: string
  /** How much the marker leans, + generous, as it was estimated when it was tried. */
  effect: number
  /** How much of it is taken out, 0..1. */
  factor: number
}

export const markerEffect: ReadingMethod<MarkerEffect> = {
  acts: 'readings',
  title: 'a marker’s lean',
  says: 'What a marker leans is taken out of their readings, before they are agreed.',
  assumes: 'That they lean alike on all scripts, and that their lean is known well enough.',
  notWhen: 'They are erratic, or share few scripts with others: have scripts read again.',
  done: ({ markerId, effect, factor }, { marker }) =>
    `with the lean of ${marker(markerId)}, ${figure(effect)}, taken out${factor === 1 ? '' : ` at ${figure(factor * 100)}%`}`,
  reading({ markerId, effect, factor }) {
    if (factor < 0 || factor > 1) throw new AdjustmentError('Between nothing and all of a lean can be taken out.')
    const off = times(finite(effect), finite(factor))
    return (of, mark) => (of.markerId === markerId ? minus(mark, off) : null)
  },
  anew(method, { leanOf }) {
    const now = leanOf(method.markerId)
    if (now === null || Math.abs(now - method.effect) < SAME) return null
    return {
      method: { ...method, effect: now },
      words: `By now the lean is ${figure(now)}, not ${figure(method.effect)}.`,
    }
  },
}
