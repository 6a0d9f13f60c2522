import type { ShareRule, Sharing } from '#contract'

export type Rule = ShareRule

/** What one begins with: everybody alike, as many readings as are wanted, nobody their own section. */
export const ruleFor = ({ assessment, loads }: Sharing): Rule => ({
  how: 'draw',
  readings: Math.min(assessment.readingsWanted, Math.max(1, loads.length)),
  markers: loads.map(({ id }) => ({ id, capacity: 1 })),
  panels: [[]],
  avoidOwnSection: true,
  seed: 1,
  sample: { share: 0.1, least: 10, zone: 1 },
})
