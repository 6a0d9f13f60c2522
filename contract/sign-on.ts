import { z } from 'zod'
import { plainName } from './course'

/** In place of an address: the provider that ships with Level Table. */
export const STAND_IN = 'stand-in'

/** What the stand-in provider does on purpose, to see what happens then. */
export const ProviderMode = z.enum([
  'works',
  'fails',
  'is slow',
  'leaves the claim out',
  'answers another question',
  'signs with another key',
])
export type ProviderMode = z.infer<typeof ProviderMode>

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]'])

/** An address over TLS, or on the machine itself. */
export const Issuer = z
  .string()
  .trim()
  .max(500)
  .refine((text) => {
    if (text === STAND_IN) return true
    const url = URL.canParse(text) ? new URL(text) : null
    const safe = url?.protocol === 'https:' || (url?.protocol === 'http:' && LOOPBACK.has(url.hostname))
    return safe && url!.search === '' && url!.hash === '' && url!.username === ''
  }, 'Give the address that the provider names as its issuer, as in https://sign-on.example.org.')

/** An OpenID Connect provider by which people come in. */
export const Provider = z.strictObject({
  /** What people know it as; it stands on the button at the door. */
  name: plainName(z.string().trim().min(1, 'What do people know it as?').max(60)),
  issuer: Issuer,
  clientId: z.string().trim().min(1, 'Give the id that the provider knows this installation by.').max(300),
  /** Which of its claims is people’s sign-in here. */
  claim: z
    .string()
    .trim()
    .regex(/^[\w:/.-]{1,100}$/, 'Give the claim’s name, as in preferred_username.'),
  /** Whether whoever the provider knows and nobody here does is made a person at their first sign-in, without any part. */
  makesPeople: z.boolean(),
})
export type Provider = z.infer<typeof Provider>

/** How people come in. */
export const SignOn = z
  .strictObject({ passphrases: z.boolean(), provider: Provider.nullable() })
  .refine((s) => s.passphrases || s.provider !== null, { error: 'Without a provider nobody could come in.', path: ['passphrases'] })
export type SignOn = z.infer<typeof SignOn>

export const Settings = z.strictObject({
  version: z.number().int(),
  department: z.string(),
  signOn: SignOn,
  /** Days after which a course that was put away can be made nameless. */
  namelessAfter: z.number().int(),
  /** Where the provider sends people back to; it has to know that address. */
  backTo: z.string(),
  /** Whether the server was started with the secret that the provider gave. */
  secret: z.boolean(),
  /** What the stand-in provider does; null where it is not there. */
  standIn: ProviderMode.nullable(),
})
export type Settings = z.infer<typeof Settings>

/** What a provider says of itself. */
export const FoundProvider = z.strictObject({
  issuer: z.string(),
  /** Claims it says it has; empty where it does not say. */
  claims: z.array(z.string()),
})
export type FoundProvider = z.infer<typeof FoundProvider>
