import { compare, minus, over, plus, times, type Rational } from '../../grades/rational'
import { AdjustmentError, finite, type MarkMethod, pointsOnScale } from './method'

export interface Line {
  kind: 'line'
  /** A mark and what it becomes. */
  from: [number, number]
  to: [number, number]
}

export const line: MarkMethod<Line> = {
  acts: 'marks',
  title: 'two-point line',
  says: 'Two marks are given new values; the others lie on the line through them.',
  assumes: 'That two marks are known for what they are worth, the pass mark for one.',
  notWhen: 'The ends of the range would be pushed together: look how many meet there.',
  done: () => 'put on a two-point line',
  start: ({ outOf }) => ({ kind: 'line', from: [0, 0], to: [outOf, outOf] }),
  scaled(method, by) {
    const [from, to] = pointsOnScale([method.from, method.to], by)
    return { ...method, from: from!, to: to! }
  },
  map(method) {
    const [a, b] = method.from.map(finite) as [Rational, Rational]
    const [c, d] = method.to.map(finite) as [Rational, Rational]
    if (compare(a, c) === 0) throw new AdjustmentError('The two points of the line need different marks to start from.')
    const slope = over(minus(d, b), minus(c, a))
    if (slope.n < 0n) throw new AdjustmentError('The line falls: a higher mark would become a lower one.')
    return (x) => plus(b, times(minus(x, a), slope))
  },
  points: {
    read: ({ from, to }) => [from, to],
    put: (method, [from, to]) => ({ ...method, from: from!, to: to! }),
  },
}
