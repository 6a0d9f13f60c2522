import { plus } from '../../grades/rational'
import { finite, type Method } from './method'

export interface Add {
  kind: 'add'
  /** In marks. */
  by: number
}

export const add: Method<Add> = {
  title: 'add the same',
  says: 'Everyone gets the same marks more (or fewer).',
  done: ({ by }) => `${by} added`,
  start: () => ({ kind: 'add', by: 0 }),
  map(method) {
    const by = finite(method.by)
    return (x) => plus(x, by)
  },
}
