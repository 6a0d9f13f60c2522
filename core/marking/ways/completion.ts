import { direct } from './direct'
import { JudgedError, type Way } from './way'

/** Done or not: all that it is marked out of, or nothing. */
export const completion: Way<null> = {
  ...direct,
  title: 'completion: done or not',
  asks: () => new JudgedError('Say whether it was done.', 'mark'),
  check({ mark }, _, outOf) {
    if (mark !== null && mark !== 0 && mark !== outOf) throw new JudgedError(`It is done, ${outOf}, or not done, 0.`, 'mark')
  },
}
