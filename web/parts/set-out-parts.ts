export const PARTS = ['roll', 'plan', 'placements'] as const
export type Part = (typeof PARTS)[number]
