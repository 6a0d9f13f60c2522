import { adjuster, type Adjustment } from '../../rescale/adjustments'
import { actsOnMarks, adjustmentMap, isFixed, isForTotal, isRereading, methodOf, readingMethodOf } from '../../rescale/methods'
import { adjustmentInWords } from '../../rescale/in-words'
import { ChangeError, there, type ChangeKind } from './kind'

/** An adjustment added, or put in the place of the one with its id. */
export interface Adjust {
  kind: 'adjust'
  adjustment: Adjustment
}

export const adjust: ChangeKind<Adjust> = {
  decides: 'rescale',
  word: 'adjustment',
  several: 'adjustments',
  target: (c) => c.adjustment.id,
  apply(draft, { adjustment }) {
    const { adjustments } = draft
    draft.adjustments = adjustments.some((a) => a.id === adjustment.id)
      ? adjustments.map((a) => (a.id === adjustment.id ? adjustment : a))
      : [...adjustments, adjustment]
  },
  check({ adjustment: a }, { after, assessments, sections, markers, rereadNow }) {
    const { method } = a
    for (const id of a.sectionIds ?? []) there(sections, id, 'section')
    if (!isFixed(method)) throw new ChangeError(`“${methodOf(method.kind).title}” does not say which marks it was fixed by: try it anew.`)
    if (a.assessmentId === null) {
      if (!isForTotal(method)) throw new ChangeError(`“${methodOf(method.kind).title}” is for an assessment, not for the course percent.`)
      if (a.sectionIds) throw new ChangeError('The course percent is rescaled for everyone.')
      adjustmentMap(method, null)
      return
    }
    there(assessments, a.assessmentId, 'assessment')
    const { title } = assessments.get(a.assessmentId)!
    const { outOf } = after.course.assessments.find((x) => x.id === a.assessmentId)!
    if (a.outOf !== outOf) throw new ChangeError(`${title} is marked out of ${outOf}, not ${a.outOf}.`)
    if (actsOnMarks(method)) {
      adjuster({ ...a, method }, [0, outOf])
      return
    }
    readingMethodOf(method.kind).reading(method)
    if (method.kind === 'markerEffect') there(markers, method.markerId, 'marker')
    if (!isRereading(method)) return
    const other = after.adjustments.find((x) => x.on && x.id !== a.id && x.assessmentId === a.assessmentId && isRereading(x.method))
    if (other) throw new ChangeError(`A criterion of ${title} is left out or given already: change that adjustment.`)
    if (!rereadNow(a.assessmentId, method)) throw new ChangeError(`Readings of ${title} changed meanwhile: try it anew.`, true)
  },
  words: (all, called) => all.map(({ adjustment }) => adjustmentInWords(adjustment, called)),
}
