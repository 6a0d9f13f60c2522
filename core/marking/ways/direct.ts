import { JudgedError, type Way } from './way'

/** A mark, as it is. */
export const direct: Way<null> = {
  title: 'direct',
  unjudged: ({ mark }) => (mark === null ? ['the mark'] : []),
  asks: () => new JudgedError('Give a mark.', 'mark'),
  check({ mark }, _, outOf) {
    if (mark !== null && (mark < 0 || mark > outOf)) throw new JudgedError(`${mark} is outside 0 to ${outOf}.`, 'mark')
  },
  mark: ({ mark }) => mark,
  keeps: () => ({ picks: {}, judgement: null }),
}
