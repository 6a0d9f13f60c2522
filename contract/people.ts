import { z } from 'zod'
import { isMailAddress, isSignIn } from '#core/roll'
import { Id, plainName } from './course'
import { PersonName } from './roll'

export const SignInName = plainName(z.string().trim().min(1, 'Give a sign-in.')).refine(
  isSignIn,
  'Letters, digits and signs, without blanks; at most 120.',
)
export const Email = z.string().trim().refine(isMailAddress, 'That is no mail address.')

export const MIN_PASSPHRASE = 12
export const NewPassphrase = z.string().min(MIN_PASSPHRASE, `At least ${MIN_PASSPHRASE} characters.`).max(500, 'At most 500 characters.')

/** Invited: no passphrase chosen yet. Inactive: cannot sign in; what they did stays. */
export const PersonState = z.enum(['invited', 'in', 'inactive'])
export type PersonState = z.infer<typeof PersonState>

export const ListedPerson = z.strictObject({
  id: Id,
  name: z.string(),
  signIn: z.string(),
  email: z.string().nullable(),
  admin: z.boolean(),
  state: PersonState,
  /** Not where they come in by the provider alone. */
  hasPassphrase: z.boolean(),
  lastSignIn: z.string().nullable(),
  /** When the link that they have ends; null where they have none. */
  linkEnds: z.string().nullable(),
  /** Whether a course may be given to them: active, and not known as a student alone. */
  mayLead: z.boolean(),
  /** Their roles, “lead of CFS 214, autumn 2026”. */
  roles: z.array(z.string()),
  version: z.number().int(),
})
export type ListedPerson = z.infer<typeof ListedPerson>

export const NewPerson = z.strictObject({
  name: PersonName,
  signIn: SignInName,
  email: Email.nullable(),
  externalId: z.string().max(200).nullable().default(null),
})
export type NewPerson = z.infer<typeof NewPerson>

/** What a list of people would do, line by line. */
export const TriedPeople = z.strictObject({
  rows: z.array(
    z.strictObject({
      line: z.number().int(),
      name: z.string(),
      signIn: z.string(),
      email: z.string().nullable(),
      does: z.enum(['added', 'known', 'refused']),
      why: z.string().nullable(),
    }),
  ),
  people: z.array(NewPerson.required()),
})
export type TriedPeople = z.infer<typeof TriedPeople>

/** A one-time link, shown once: afterwards it is known by its hash alone. */
export const WayIn = z.strictObject({
  personId: Id,
  link: z.string(),
  /** Null where it is the door itself, through which they come by the provider. */
  endsAt: z.string().nullable(),
  /** Whether the post took a letter with it; else why not. */
  sent: z.union([z.literal(true), z.string()]),
})
export type WayIn = z.infer<typeof WayIn>

export const OwnSession = z.strictObject({
  id: z.string(),
  browser: z.string(),
  since: z.string(),
  seenAt: z.string(),
  /** The one that asks. */
  own: z.boolean(),
})
export type OwnSession = z.infer<typeof OwnSession>

export const Account = z.strictObject({
  name: z.string(),
  signIn: z.string(),
  email: z.string().nullable(),
  /** Not where they come in by the provider alone. */
  hasPassphrase: z.boolean(),
  version: z.number().int(),
  sessions: z.array(OwnSession),
})
export type Account = z.infer<typeof Account>

export const AuditKind = z.enum([
  'set up',
  'signed in',
  'not let in',
  'link made',
  'link used',
  'passphrase changed',
  'session ended',
  'person added',
  'person changed',
  'role changed',
  'course changed',
  'taken out',
  'look',
  'stand-in',
  'setting',
  'backup',
])
export type AuditKind = z.infer<typeof AuditKind>

export const AuditRow = z.strictObject({
  id: z.number().int(),
  at: z.string(),
  kind: AuditKind,
  by: z.string().nullable(),
  about: z.string().nullable(),
  course: z.string().nullable(),
  words: z.string(),
})
export type AuditRow = z.infer<typeof AuditRow>

export const Department = plainName(z.string().trim().min(1, 'Whose marks are kept here?').max(200))

export const Installation = z.strictObject({
  /** The department's name; empty until it is set up. */
  department: z.string(),
  /** Nobody is here yet: whoever has the code sets it up. */
  needsSetUp: z.boolean(),
  /** Made-up people and marks. */
  demo: z.boolean(),
  /** Whether everybody can come in by a passphrase; else only who administers can. */
  passphrases: z.boolean(),
  /** What the provider is known as by which people come in; null where there is none. */
  provider: z.string().nullable(),
})
export type Installation = z.infer<typeof Installation>
