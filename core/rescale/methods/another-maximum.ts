import { over, times } from '../../grades/rational'
import { AdjustmentError, finite, type MarkMethod, onScale } from './method'

export interface AnotherMaximum {
  kind: 'anotherMaximum'
  /** What the marks were out of, and what they are to be out of. */
  from: number
  to: number
}

export const anotherMaximum: MarkMethod<AnotherMaximum> = {
  acts: 'marks',
  title: 'another maximum',
  says: 'Marks out of one maximum are brought to another, in proportion.',
  assumes: 'That half of the one is half of the other.',
  notWhen: 'The marks are right and only the maximum was mistyped: then mend the maximum.',
  done: ({ from, to }) => `brought from out of ${from} to out of ${to}`,
  start: ({ outOf }) => ({ kind: 'anotherMaximum', from: outOf, to: outOf }),
  scaled: ({ kind, from, to }, by) => ({ kind, from: onScale(from, by), to: onScale(to, by) }),
  map(method) {
    if (!(method.from > 0) || !(method.to > 0)) throw new AdjustmentError('Both maxima must be above 0.')
    const by = over(finite(method.to), finite(method.from))
    return (x) => times(x, by)
  },
}
