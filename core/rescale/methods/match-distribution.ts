import { exactEquipercentileMap, frequenciesOf, type Frequencies } from '../equipercentile-map'
import type { Like } from './like'
import { AdjustmentError, type MarkMethod, onScale } from './method'

export interface MatchDistribution {
  kind: 'matchDistribution'
  /** The marks it covers when it was tried; without them, those there are. */
  from?: Frequencies
  /** The marks of the group that is matched. */
  to: Frequencies
  like: Like
}

export const matchDistribution: MarkMethod<MatchDistribution> = {
  acts: 'marks',
  title: 'distribution of…',
  says: 'Each mark becomes the one that as many lie below in another group.',
  assumes: 'That both groups are equally able, all along the range.',
  notWhen: 'There are few marks: with under fifty on a side the map follows chance. Then match mean and spread.',
  done: () => 'brought to another distribution',
  start({ marks }) {
    const own = frequenciesOf(marks)
    return { kind: 'matchDistribution', from: own, to: own, like: { group: 'typed' } }
  },
  scaled: ({ kind, to, like }, by) => ({ kind, to: to.map(([v, n]) => [onScale(v, by), n]), like }),
  map({ from, to }, marks) {
    const own = from ?? frequenciesOf(marks)
    if (own.length === 0 || to.length === 0) throw new AdjustmentError('Matching needs marks on both sides.')
    return exactEquipercentileMap(own, to)
  },
  anew(method, { covered, like }) {
    if (covered.length === 0) return null
    const from = frequenciesOf(covered)
    const to = method.like.group !== 'typed' && like && like.length > 0 ? frequenciesOf(like) : method.to
    const same = (a: Frequencies, b: Frequencies) => a.length === b.length && a.every((x, i) => x[0] === b[i]![0] && x[1] === b[i]![1])
    if (method.from && same(from, method.from) && same(to, method.to)) return null
    return { method: { ...method, from, to }, words: 'Marks on one side or the other have changed since.' }
  },
}
