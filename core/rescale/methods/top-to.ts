import { minus, plus, rationalOf } from '../../grades/rational'
import { finite, type Method } from './method'

export interface TopTo {
  kind: 'topTo'
  /** What the highest mark becomes. */
  to: number
}

export const topTo: Method<TopTo> = {
  title: 'top to',
  says: 'The highest mark is brought to a value, and everyone moves with it.',
  done: ({ to }) => `top brought to ${to}`,
  start: (outOf) => ({ kind: 'topTo', to: outOf }),
  map(method, marks) {
    if (marks.length === 0) return (x) => x
    const by = minus(finite(method.to), rationalOf(marks.reduce((a, b) => Math.max(a, b))))
    return (x) => plus(x, by)
  },
}
