import { describe } from '../../compare/describe'
import { minus, over, plus, times } from '../../grades/rational'
import type { Like } from './like'
import { AdjustmentError, figure, finite, SAME, type MarkMethod, onScale } from './method'

export interface MeanSd {
  mean: number
  sd: number
}

export interface MatchMeanSd {
  kind: 'matchMeanSd'
  /** Mean and sd (n − 1) of the marks it covers when it was tried; without them, of those there are. */
  from?: MeanSd
  to: MeanSd
  like: Like
}

export const matchMeanSd: MarkMethod<MatchMeanSd> = {
  acts: 'marks',
  title: 'mean and spread of…',
  says: 'The marks are given the mean and the spread of another group.',
  assumes: 'That both groups are equally able: a difference between them is the paper or the marking.',
  notWhen: 'One group is truly stronger: look at what its students do elsewhere.',
  done: ({ to }) => `brought to mean ${figure(to.mean)} and sd ${figure(to.sd)}`,
  start({ marks }) {
    const own = marks.length > 1 ? meanSdOf(marks) : { mean: 0, sd: 1 }
    return { kind: 'matchMeanSd', from: own, to: own, like: { group: 'typed' } }
  },
  scaled: ({ kind, to, like }, by) => ({ kind, to: { mean: onScale(to.mean, by), sd: onScale(to.sd, by) }, like }),
  map({ from, to }, marks) {
    const own = from ?? meanSdOf(marks)
    if (own.sd === 0) throw new AdjustmentError('All these marks are the same: they have no spread to match.')
    if (to.sd < 0) throw new AdjustmentError('A spread cannot be below 0.')
    const slope = over(finite(to.sd), finite(own.sd))
    return (x) => plus(finite(to.mean), times(minus(x, finite(own.mean)), slope))
  },
  anew(method, { covered, like }) {
    if (covered.length < 2) return null
    const from = meanSdOf(covered)
    const to = method.like.group !== 'typed' && like && like.length > 1 ? meanSdOf(like) : method.to
    const same = (a: MeanSd, b: MeanSd) => Math.abs(a.mean - b.mean) < SAME && Math.abs(a.sd - b.sd) < SAME
    if (method.from && same(from, method.from) && same(to, method.to)) return null
    return {
      method: { ...method, from, to },
      words: `By now it would take mean ${figure(from.mean)} to ${figure(to.mean)} and sd ${figure(from.sd)} to ${figure(to.sd)}.`,
    }
  },
}

/** @throws AdjustmentError under two marks, which have no spread */
export function meanSdOf(marks: readonly number[]): MeanSd {
  if (marks.length < 2) throw new AdjustmentError('A spread needs two marks or more.')
  const { mean, sd } = describe(marks)
  return { mean: mean!, sd: sd! }
}
