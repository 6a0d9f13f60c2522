import { USUAL_USE, type Assessment, type Component, type StandardUse } from '#contract'

export interface ComponentRow {
  id: string
  title: string
  weight: number | null
  combine: 'byWorth' | 'equally'
  drop_lowest: number
  bonus: number
  version: number
}

export interface AssessmentRow {
  id: string
  component_id: string
  title: string
  marking: Assessment['marking']
  out_of: number
  worth: number | null
  worth_follows: number
  counts: number
  bonus: number
  droppable: number
  pass_mark: number | null
  tolerance: number
  readings_wanted: number
  step: number | null
  blind: number
  standard_id: string | null
  use: string
  sees: string
  notes: string
  away: number
  version: number
}

export const toComponent = (r: ComponentRow): Component => ({
  id: r.id,
  title: r.title,
  weight: r.weight,
  combine: r.combine,
  dropLowest: r.drop_lowest,
  bonus: !!r.bonus,
  version: r.version,
})

export const toAssessment = (r: AssessmentRow): Assessment => ({
  id: r.id,
  componentId: r.component_id,
  title: r.title,
  marking: r.marking,
  outOf: r.out_of,
  worth: r.worth,
  worthFollows: !!r.worth_follows,
  counts: !!r.counts,
  bonus: !!r.bonus,
  droppable: !!r.droppable,
  passMark: r.pass_mark,
  tolerance: r.tolerance,
  readingsWanted: r.readings_wanted,
  step: r.step,
  standardId: r.standard_id,
  use: { ...USUAL_USE, ...(JSON.parse(r.use) as Partial<StandardUse>) },
  notes: r.notes,
  version: r.version,
})
