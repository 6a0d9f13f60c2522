import { useEffect, useState } from 'react'
import { checkBoundaries, type Boundary, type BoundaryFinding } from '#core/grades'
import { useCourse } from '../../course/course'
import { tryBoundaries } from '../../course/try-boundaries'
import { withGrade } from '../../parts/edited-grades'
import { numeral } from '../../parts/format'

export interface Lines {
  /** As they are tried, from the best grade. */
  boundaries: Boundary[]
  /** As they were typed, while they are no set that could be in force. */
  typed: Boundary[] | null
  findings: BoundaryFinding[]
  /** Tries a set as a whole; one that could not be in force waits, as typed, until it can or is put back. */
  tryOut: (next: Boundary[], what: string) => void
  /** One line to a percent. */
  put: (at: number, from: number) => void
  /** Looked at while it is pulled, and not yet tried. */
  pull: (at: number, from: number) => void
  putBack: () => void
}

/** Where grades begin, in the open trial. */
export function useLines(): Lines {
  const { table, tried, trial, propose, preview, setTrial, mayDecide } = useCourse()
  // From the trial itself, not from what is worked out of it: the next key must step from here.
  const { boundaries } = tried
  const [typed, setTyped] = useState<Boundary[] | null>(null)
  const inTrial = boundaries.map((b) => `${b.grade} ${b.from}`).join()
  // What is in force or tried has changed, by Discard for one: what was typed against what stood before is done with.
  useEffect(() => setTyped(null), [inTrial])
  const fits = (next: Boundary[]) => checkBoundaries(next, table.policy.above100).length === 0
  const tryOut = (next: Boundary[], what: string) => {
    preview(null)
    if (!mayDecide) return
    if (!fits(next)) return setTyped(next)
    setTyped(null)
    tryBoundaries({ changes: trial.changes, propose, setTrial }, next, table.boundaries, what)
  }
  return {
    boundaries,
    typed,
    findings: typed ? checkBoundaries(typed, table.policy.above100) : [],
    tryOut,
    put: (at, from) => tryOut(withGrade(typed ?? boundaries, at, { from }), `${boundaries[at]!.grade} begins at ${numeral(from)}`),
    pull(at, from) {
      const next = withGrade(boundaries, at, { from })
      if (fits(next)) preview([{ kind: 'bound', boundaries: next, over: table.boundaries }])
    },
    putBack: () => setTyped(null),
  }
}
