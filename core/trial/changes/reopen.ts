import { ChangeError, counted, type ChangeKind } from './kind'

/** Opens a script again that was settled. */
export interface Reopen {
  kind: 'reopen'
  scriptId: string
}

export const reopen: ChangeKind<Reopen> = {
  decides: 'reconcile',
  word: 'opened again',
  target: (c) => c.scriptId,
  // One script is settled or opened again, whichever was said last.
  inPlaceOf: 'settle',
  apply(draft, c) {
    const cell = draft.cells.ofScript(c.scriptId)
    if (cell < 0) return
    ;(draft.agreed as Map<number, number>).delete(cell)
    ;(draft.agreedBy as Map<number, unknown>).delete(cell)
    ;(draft.reopened as Set<number>).add(cell)
  },
  check(c, { w }) {
    if (!w.agreed.has(w.cells.ofScript(c.scriptId))) throw new ChangeError('That script is not settled (any more).', true)
  },
  together: true,
  words(all, { title, ofScript }) {
    const of = [...new Set(all.map((c) => title(ofScript(c.scriptId))))]
    return [`${counted(all.length, 'script')} of ${of.join(' and ')} opened again`]
  },
}
