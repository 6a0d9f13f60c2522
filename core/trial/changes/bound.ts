import { checkBoundaries } from '../../grades/check-boundaries'
import type { Boundary } from '../../grades/course'
import { ChangeError, type ChangeKind } from './kind'

/** Where each grade begins, the whole set. */
export interface Bound {
  kind: 'bound'
  boundaries: Boundary[]
}

export const bound: ChangeKind<Bound> = {
  decides: 'bound',
  word: 'boundaries',
  target: () => '',
  apply(draft, c) {
    draft.boundaries = c.boundaries
  },
  check(c, { above100 }) {
    const finding = checkBoundaries(c.boundaries, above100)[0]
    if (finding) throw new ChangeError(finding.message)
  },
  words: (all) => all.map((c) => `boundaries ${c.boundaries.map((b) => `${b.grade} ${b.from}`).join(', ')}`),
}
