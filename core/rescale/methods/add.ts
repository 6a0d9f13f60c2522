import { plus } from '../../grades/rational'
import { finite, type MarkMethod, onScale } from './method'

export interface Add {
  kind: 'add'
  /** In marks. */
  by: number
}

export const add: MarkMethod<Add> = {
  acts: 'marks',
  title: 'add the same',
  says: 'Everyone gets the same marks more (or fewer).',
  assumes: 'That all lost the same, whoever they are.',
  notWhen: 'The weak lost more than the strong, or the other way round: pull points.',
  done: ({ by }) => `${by} added`,
  start: () => ({ kind: 'add', by: 0 }),
  scaled: (method, by) => ({ ...method, by: onScale(method.by, by) }),
  map(method) {
    const by = finite(method.by)
    return (x) => plus(x, by)
  },
}
