import { times } from '../../grades/rational'
import { finite, type MarkMethod } from './method'

export interface Multiply {
  kind: 'multiply'
  by: number
}

export const multiply: MarkMethod<Multiply> = {
  acts: 'marks',
  title: 'multiply',
  says: 'Every mark is multiplied by the same number.',
  assumes: 'That who has more lost more, in proportion.',
  notWhen: 'The weakest are to be helped most: they gain least by it.',
  done: ({ by }) => `multiplied by ${by}`,
  start: () => ({ kind: 'multiply', by: 1 }),
  scaled: (method) => method,
  map(method) {
    const by = finite(method.by)
    return (x) => times(x, by)
  },
}
