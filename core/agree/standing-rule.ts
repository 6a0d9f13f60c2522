/** Rules by which an assessment may settle scripts within its tolerance by itself. */
export const STANDING_RULES = ['mean', 'median', 'highest', 'lowest', 'first'] as const
export type StandingRule = (typeof STANDING_RULES)[number]
