import { whyNoMark } from '../why-no-mark'
import { direct } from './direct'
import { JudgedError, type Way } from './way'

/** Done or not: all that it is marked out of, or nothing. */
export const completion: Way<null> = {
  ...direct,
  title: 'completion: done or not',
  asks: () => new JudgedError('Say whether it was done.', 'mark'),
  check({ mark }, _, outOf) {
    const why = mark === null ? null : whyNoMark(mark, { outOf, bonus: false, completion: true })
    if (why) throw new JudgedError(why, 'mark')
  },
}
