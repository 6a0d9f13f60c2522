/** The parts that somebody can have in a course, in the order of what they oversee. */
export const ROLES = ['lead', 'external', 'marker', 'student'] as const
export type Role = (typeof ROLES)[number]

/** What a part in a course lets somebody see and do. */
export interface Sight {
  /** Whose work: everybody's, that of the sections they teach, or their own. */
  students: 'all' | 'taught' | 'self' | 'none'
  /** Names, or what the course says of names (else numbers). */
  names: 'always' | 'as the course says'
  /** Whose readings, with what follows from them: agreed marks, who is over tolerance. */
  readings: 'all' | 'own' | 'none'
  /** Points and words that an assessment hides from those who mark it. */
  hidden: boolean
  /** Ids by which a records office knows students. */
  externalIds: boolean
  /** Letters and looks: everybody's, or those that concern them. */
  letters: 'all' | 'own' | 'none'
  /** Into which cells of the sheet they may type. */
  types: 'all' | 'taught' | 'none'
  /** The run, the horizon, the record: where the grades stand. */
  oversees: boolean
  /** Tries, adopts, sets out. */
  decides: boolean
  /** Reads scripts that are shared out to them. */
  reads: boolean
}

const NOTHING: Sight = {
  students: 'none',
  names: 'as the course says',
  readings: 'none',
  hidden: false,
  externalIds: false,
  letters: 'none',
  types: 'none',
  oversees: false,
  decides: false,
  reads: false,
}
const OVERSEES: Sight = {
  students: 'all',
  names: 'always',
  readings: 'all',
  hidden: true,
  externalIds: true,
  letters: 'all',
  types: 'none',
  oversees: true,
  decides: false,
  reads: false,
}

const SIGHT: Record<Role, Sight> = {
  lead: { ...OVERSEES, types: 'all', decides: true },
  external: OVERSEES,
  marker: { ...NOTHING, students: 'taught', readings: 'own', letters: 'own', types: 'taught', reads: true },
  student: { ...NOTHING, students: 'self' },
}

const isRole = (role: string): role is Role => Object.hasOwn(SIGHT, role)

/** Who sees what: the row of a role. A role that is not in the table sees nothing. */
export const sightOf = (role: string | null | undefined): Sight => (role && isRole(role) ? SIGHT[role] : NOTHING)
