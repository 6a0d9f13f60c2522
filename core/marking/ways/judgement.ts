import { scaleMark, scaleValue, type Scale } from '../../scales/scale'
import { JudgedError, type Way } from './way'

/** An overall judgement: one label of a scale, worth its percent. */
export const judgement: Way<Scale> = {
  title: 'overall judgement',
  unjudged: (judged) => (judged.judgement === null ? ['the judgement'] : []),
  asks: () => new JudgedError('Choose a label of the scale.', 'judgement'),
  check(judged, scale) {
    if (judged.judgement !== null && scaleValue(scale, judged.judgement) === null)
      throw new JudgedError('Choose a label of the scale.', 'judgement')
  },
  mark: (judged, scale, outOf) => (judged.judgement === null ? null : scaleMark(scale, judged.judgement, outOf)),
  keeps: ({ picks, judgement: label }) => ({ picks, judgement: label }),
}
