import type { ShareRule, Sharing } from '#contract'

export type Rule = ShareRule

/**
 * What one begins with: how it was shared out last, with who reads what left as it is; the first time everybody alike, as many
 * readings as are wanted, nobody their own section.
 */
export const ruleFor = ({ rule, assessment, loads, usualZone }: Sharing): Rule =>
  rule ? { ...rule, keep: true, moveBegun: [], sample: { ...rule.sample, only: undefined } } : firstRule({ assessment, loads, usualZone })

/** A further reading of some people, carried here from another stop. */
export const ruleForChosen = (of: Sharing, studentIds: readonly string[]): Rule => {
  const rule = ruleFor(of)
  return { ...rule, how: 'sample', sample: { ...rule.sample, only: [...studentIds] } }
}

const firstRule = ({ assessment, loads, usualZone }: Pick<Sharing, 'assessment' | 'loads' | 'usualZone'>): Rule => ({
  how: 'draw',
  readings: Math.min(assessment.readingsWanted, Math.max(1, loads.length)),
  markers: loads.map(({ id }) => ({ id, capacity: 1 })),
  panels: [[]],
  avoidOwnSection: true,
  keep: loads.some((l) => l.allotted > 0),
  moveBegun: [],
  seed: 1,
  sample: { share: 0.1, least: 10, zone: usualZone },
})
