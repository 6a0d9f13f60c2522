import { group } from 'd3-array'
import type { Day } from '#core/roll'
import type { Release } from '#contract'
import type { PlanCore } from './load-plan'

/** An assessment in one section: when it is due, and when what came of it is out. */
export interface Placed {
  sectionId: string
  due: Day | null
  release: Release
}

type Placements = Pick<PlanCore, 'assessments' | 'placements' | 'sections' | 'releases'>

const known = new WeakMap<Placements['placements'], Map<string, Placed[]>>()

function byAssessment({ assessments, placements, sections, releases }: Placements): Map<string, Placed[]> {
  const placed = group(placements, ([a]) => assessments[a]!.id)
  return new Map(
    [...placed].map(([id, rows]) => [id, rows.map(([, s, due, r]) => ({ sectionId: sections[s]!.id, due, release: releases[r]! }))]),
  )
}

/** Where an assessment is set; nowhere where there is no such one. A plan's placements are gone through once. */
export function placedOf(plan: Placements, assessmentId: string): readonly Placed[] {
  const all = known.get(plan.placements) ?? byAssessment(plan)
  known.set(plan.placements, all)
  return all.get(assessmentId) ?? []
}
