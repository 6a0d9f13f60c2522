/** What a column of a roll can be. */
export const ROLL_FIELDS = [
  'candidate',
  'name',
  'given name',
  'family name',
  'section',
  'section name',
  'teacher',
  'meets',
  'starts',
  'external id',
  'sign-in',
  'from',
  'to',
] as const
export type RollField = (typeof ROLL_FIELDS)[number]
