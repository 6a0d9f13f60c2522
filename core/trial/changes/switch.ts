import { ChangeError, type ChangeKind } from './kind'

/** An adjustment switched on or off. */
export interface Switch {
  kind: 'switch'
  adjustmentId: string
  on: boolean
}

export const switched: ChangeKind<Switch> = {
  decides: 'rescale',
  word: 'adjustment switched',
  target: (c) => c.adjustmentId,
  apply(draft, { adjustmentId, on }) {
    draft.adjustments = draft.adjustments.map((a) => (a.id === adjustmentId ? { ...a, on } : a))
  },
  check(c, { adjustments }) {
    if (!adjustments.has(c.adjustmentId)) throw new ChangeError('There is no such adjustment (any more).')
  },
  words: (all, { title, adjustments }) =>
    all.map(({ adjustmentId, on }) => {
      const adjusted = adjustments.find((a) => a.id === adjustmentId)
      return `an adjustment of ${!adjusted ? 'an assessment' : adjusted.assessmentId === null ? 'the course percent' : title(adjusted.assessmentId)} switched ${on ? 'on' : 'off'}`
    }),
}
