export const PARTS = ['roll', 'plan', 'placements', 'people', 'course'] as const
export type Part = (typeof PARTS)[number]
