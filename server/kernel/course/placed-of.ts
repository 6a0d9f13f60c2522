import type { Day } from '#core/roll'
import type { Release } from '#contract'
import type { PlanCore } from './load-plan'

/** An assessment in one section: when it is due, and when what came of it is out. */
export interface Placed {
  sectionId: string
  due: Day | null
  release: Release
}

/** Where an assessment is set; nowhere where there is no such one. */
export const placedOf = ({ assessments, placements, sections, releases }: PlanCore, assessmentId: string): Placed[] =>
  placements.flatMap(([a, s, due, r]) =>
    assessments[a]!.id === assessmentId ? [{ sectionId: sections[s]!.id, due, release: releases[r]! }] : [],
  )
