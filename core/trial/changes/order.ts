import { ChangeError, type ChangeKind } from './kind'

/** The order of the adjustments of an assessment, or of the course percent. */
export interface Order {
  kind: 'order'
  /** Null for the course percent. */
  assessmentId: string | null
  adjustmentIds: string[]
}

export const order: ChangeKind<Order> = {
  decides: 'rescale',
  word: 'order of adjustments',
  target: (c) => c.assessmentId ?? '',
  apply(draft, { assessmentId, adjustmentIds }) {
    const place = new Map(adjustmentIds.map((id, i) => [id, i]))
    const own = draft.adjustments.filter((a) => a.assessmentId === assessmentId)
    // What was not there when they were put in order stays last.
    const inOrder = own
      .map((a, i) => ({ a, place: place.get(a.id) ?? adjustmentIds.length + i }))
      .sort((x, y) => x.place - y.place)
      .map(({ a }) => a)
    draft.adjustments = draft.adjustments.map((a) => (a.assessmentId === assessmentId ? inOrder.shift()! : a))
  },
  check(c, { adjustments }) {
    for (const id of c.adjustmentIds) if (!adjustments.has(id)) throw new ChangeError('There is no such adjustment (any more).')
  },
  words: (all, { title }) =>
    all.map(
      ({ assessmentId }) => `adjustments of ${assessmentId === null ? 'the course percent' : title(assessmentId)} put in another order`,
    ),
}
