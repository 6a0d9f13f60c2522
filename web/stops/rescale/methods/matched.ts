import { frequenciesOf, meanSdOf, type AdjustmentMethod, type Like, type OfKind } from '#core/rescale'

/** A match of another group: fixed by the marks of both as they are now. One without enough marks leaves it as it was. */
export function matched(
  method: OfKind<'matchMeanSd' | 'matchDistribution'>,
  like: Like,
  covered: readonly number[],
  marks: readonly number[] | null,
): AdjustmentMethod {
  if (method.kind === 'matchMeanSd')
    return {
      ...method,
      like,
      ...(covered.length > 1 && { from: meanSdOf(covered) }),
      ...(marks && marks.length > 1 && { to: meanSdOf(marks) }),
    }
  return { ...method, like, from: frequenciesOf(covered), to: marks && marks.length > 0 ? frequenciesOf(marks) : frequenciesOf(covered) }
}
