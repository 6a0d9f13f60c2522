import { useEffect, useRef, useState } from 'react'
import { checkNewBoundaries, type Boundary, type BoundaryFinding } from '#core/grades'
import { useCourse, useExpectTrials } from '../../course/course'
import { withBoundaries } from '../../course/try-boundaries'
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
  /** Has the next step of a line worked out before it is made, either way. */
  expectStep: (at: number) => void
}

/** What a line snaps to when it is pulled, and what one step is, in percent. */
export const GRAIN = 0.5

/** Where grades begin, in the open trial. */
export function useLines(): Lines {
  const { table, tried, trial, preview, setTrial, mayDecide } = useCourse()
  const expect = useExpectTrials()
  const lastStep = useRef(GRAIN)
  // From the trial itself, not from what is worked out of it: the next key must step from here.
  const { boundaries } = tried
  const [typed, setTyped] = useState<Boundary[] | null>(null)
  const inTrial = boundaries.map((b) => `${b.grade} ${b.from}`).join()
  // What is in force or tried has changed, by Discard for one: what was typed against what stood before is done with.
  useEffect(() => setTyped(null), [inTrial])
  const wrongWith = (next: Boundary[]) => checkNewBoundaries(next, { boundaries, conditions: tried.conditions, policy: table.policy })
  const fits = (next: Boundary[]) => wrongWith(next).length === 0
  const tryOut = (next: Boundary[], what: string) => {
    preview(null)
    if (!mayDecide) return
    if (!fits(next)) return setTyped(next)
    setTyped(null)
    setTrial(withBoundaries(trial.changes, next, table.boundaries), what)
  }
  const moved = (from: readonly Boundary[], at: number, by: number) => withGrade(from, at, { from: stepped(from[at]!.from, by) })
  const expectOf = (sets: Boundary[][]) => expect(sets.filter(fits).map((next) => withBoundaries(trial.changes, next, table.boundaries)))
  return {
    boundaries,
    typed,
    findings: typed ? wrongWith(typed) : [],
    tryOut,
    put(at, from) {
      const next = withGrade(typed ?? boundaries, at, { from })
      tryOut(next, `${boundaries[at]!.grade} begins at ${numeral(from)}`)
      // Who steps once steps on.
      const by = from - boundaries[at]!.from
      lastStep.current = by !== 0 && Math.abs(by) <= GRAIN ? by : GRAIN
      expectOf([moved(next, at, lastStep.current)])
    },
    pull(at, from) {
      const next = withGrade(boundaries, at, { from })
      if (fits(next)) preview([{ kind: 'bound', boundaries: next, over: table.boundaries }])
    },
    putBack: () => setTyped(null),
    expectStep(at) {
      if (mayDecide && !typed) expectOf([lastStep.current, -lastStep.current].map((by) => moved(boundaries, at, by)))
    },
  }
}

/** Where a line is a step further, in percent. */
export const stepped = (from: number, by: number): number => Number((from + by).toFixed(3))
