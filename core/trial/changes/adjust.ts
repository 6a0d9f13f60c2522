import { adjuster, type Adjustment } from '../../rescale/adjustments'
import { methodOf } from '../../rescale/methods'
import { ChangeError, there, type ChangeKind } from './kind'

/** An adjustment added, or put in the place of the one with its id. */
export interface Adjust {
  kind: 'adjust'
  adjustment: Adjustment
}

export const adjust: ChangeKind<Adjust> = {
  decides: 'rescale',
  word: 'adjustment',
  target: (c) => c.adjustment.id,
  apply(draft, { adjustment }) {
    const { adjustments } = draft
    draft.adjustments = adjustments.some((a) => a.id === adjustment.id)
      ? adjustments.map((a) => (a.id === adjustment.id ? adjustment : a))
      : [...adjustments, adjustment]
  },
  check({ adjustment: a }, { assessments, sections }) {
    there(assessments, a.assessmentId, 'assessment')
    const { title, outOf } = assessments.get(a.assessmentId)!
    if (a.outOf !== outOf) throw new ChangeError(`${title} is marked out of ${outOf}, not ${a.outOf}.`)
    for (const id of a.sectionIds ?? []) there(sections, id, 'section')
    adjuster(a, [0])
  },
  words: (all, { title, section }) =>
    all.map(({ adjustment: { method, assessmentId, sectionIds } }) => {
      const where = sectionIds ? ` in ${sectionIds.map(section).join(', ')}` : ''
      return `${title(assessmentId)}${where} ${methodOf(method.kind).done(method)}`
    }),
}
