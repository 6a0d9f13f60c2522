import { times } from '../../grades/rational'
import { finite, type Method } from './method'

export interface Multiply {
  kind: 'multiply'
  by: number
}

export const multiply: Method<Multiply> = {
  title: 'multiply',
  says: 'Every mark is multiplied by the same number.',
  done: ({ by }) => `multiplied by ${by}`,
  start: () => ({ kind: 'multiply', by: 1 }),
  map(method) {
    const by = finite(method.by)
    return (x) => times(x, by)
  },
}
