import { ChangeError, patched, type ChangeKind } from './kind'

/** Takes an assessment out of the plan with all that hangs on it; its marks stay in the record. */
export interface TakeAway {
  kind: 'take away'
  assessmentId: string
}

export const takeAway: ChangeKind<TakeAway> = {
  decides: 'plan',
  word: 'taken away',
  target: (c) => c.assessmentId,
  apply(draft, c) {
    draft.assessments = patched(draft.assessments, c.assessmentId, { counts: false })
  },
  check(c, { assessments }) {
    if (!assessments.has(c.assessmentId)) throw new ChangeError('There is no such assessment (any more).')
  },
  words: (all, { title }) => all.map((c) => `${title(c.assessmentId)} taken away`),
}
