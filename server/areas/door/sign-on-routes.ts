import { randomBytes, randomUUID } from 'node:crypto'
import type { Request } from 'express'
import { parseCookie } from 'cookie'
import { NewPerson, routes, STAND_IN, type Provider, type Settings } from '#contract'
import type { AuditList } from '../../kernel/access/audit'
import type { InstallationSettings } from '../../kernel/access/installation-settings'
import type { LettingIn } from '../../kernel/access/let-in'
import { providerClient, type Begun, type Claimed, type ProviderOptions } from '../../kernel/access/provider'
import type { SignedIn } from '../../kernel/access/sessions'
import type { WaysIn } from '../../kernel/access/ways-in'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import { personQueries } from '../../kernel/access/people'
import { providerAccounts } from '../../kernel/access/provider-accounts'
import { writing } from '../../kernel/db/transactions'

const BACK_TO = '/signed-on'
const MINUTES = 10
/** Browsers that have gone to the provider and are not back. */
const MOST_BEGUN = 2000
const MOST_OF_ONE = 100
const GOING = 'level_table_going'
const goingName = (req: Request) => (req.secure ? `__Host-${GOING}` : GOING)

/** Coming in by the department's provider, and the settings of that. */
export function signOnRoutes(
  handle: Handle,
  db: Db,
  {
    audit,
    ways,
    settings,
    door,
    origin,
    ...options
  }: ProviderOptions & {
    audit: AuditList
    ways: WaysIn
    settings: InstallationSettings
    door: LettingIn
    origin: string | null
  },
): void {
  const people = personQueries(db)
  const accounts = providerAccounts(db)
  const client = providerClient(options)
  const begun = new Map<string, Begun & { ends: number; address: string }>()
  const backTo = (req: Request) => new URL(BACK_TO, origin ?? `${req.protocol}://${req.get('host')}`).href

  const shown = (req: Request): Settings => ({
    version: settings.version(),
    department: settings.department(),
    signOn: settings.signOn(),
    namelessAfter: settings.namelessAfter(),
    backTo: backTo(req),
    secret: options.secret !== null,
    standIn: options.standIn() === null ? null : settings.mode(),
  })
  handle(routes.settings, ({ req }) => shown(req))

  handle(routes.setSettings, ({ body: { version, department, signOn, namelessAfter }, me, req }) => {
    writing(db, () => {
      if (version !== settings.version())
        throw new HttpProblem(409, 'Somebody else changed the settings meanwhile: here they are as they are now.', { current: shown(req) })
      if (signOn?.provider?.issuer === STAND_IN && options.standIn() === null)
        throw new HttpProblem(422, 'The stand-in provider is not served here: give the address of a real one.', {
          field: 'signOn.provider.issuer',
        })
      if (department !== undefined) settings.setDepartment(department)
      if (signOn !== undefined) settings.setSignOn(signOn)
      if (namelessAfter !== undefined) settings.setNamelessAfter(namelessAfter)
      settings.raiseVersion()
      if (department !== undefined) audit.note({ kind: 'setting', by: me.id, words: `department: ${department}` })
      if (namelessAfter !== undefined)
        audit.note({ kind: 'setting', by: me.id, words: `courses can be made nameless after ${namelessAfter} days` })
      if (signOn !== undefined) audit.note({ kind: 'setting', by: me.id, words: wordsOf(signOn) })
    })
    return shown(req)
  })

  handle(routes.tryProvider, ({ body }) => client.about(body))

  handle(routes.setProviderMode, ({ body: { mode }, me, req }) => {
    if (options.standIn() === null) throw new HttpProblem(404, 'The stand-in provider is not served here.')
    settings.setMode(mode)
    audit.note({ kind: 'stand-in', by: me.id, words: `sign-on ${mode}` })
    return shown(req)
  })

  /** @throws HttpProblem where there is none */
  function offered(): Provider {
    const { provider } = settings.signOn()
    if (!provider) throw new HttpProblem(404, 'People come in by passphrase here.')
    return provider
  }

  handle(routes.beginSignOn, async ({ req, res }) => {
    const { to, begun: going } = await client.begin(offered(), backTo(req))
    const id = randomBytes(24).toString('base64url')
    const address = req.ip ?? ''
    begun.set(id, { ...going, ends: Date.now() + MINUTES * 60_000, address })
    // Whoever begins without end pushes out their own, and nobody else's.
    const own = [...begun].filter(([, b]) => b.address === address)
    if (own.length > MOST_OF_ONE) begun.delete(own[0]![0])
    if (begun.size > MOST_BEGUN) begun.delete(begun.keys().next().value!)
    res.cookie(goingName(req), id, { httpOnly: true, sameSite: 'strict', secure: req.secure, path: '/', maxAge: MINUTES * 60_000 })
    return { to }
  })

  handle(routes.finishSignOn, async ({ body: { query }, req, res }) => {
    const provider = offered()
    const id = parseCookie(req.headers.cookie ?? '')[goingName(req)] ?? ''
    const going = begun.get(id)
    // Good once, whatever comes of it.
    begun.delete(id)
    res.clearCookie(goingName(req), { path: '/', secure: req.secure })
    if (!going || going.ends < Date.now())
      throw new HttpProblem(410, 'That was begun in another browser, or too long ago. Come in once more.')
    const back = new URL(backTo(req))
    back.search = query
    const notLetIn = (about: string | null, words: string) =>
      audit.note({ kind: 'not let in', by: null, about, words: `${provider.name}: ${words}` })
    const claimed = await client.finish(provider, back, going).catch((e: unknown) => {
      if (e instanceof HttpProblem) notLetIn(null, e.detail)
      throw e
    })
    const person = personOf(provider, claimed)
    if ('says' in person) {
      notLetIn(person.about, person.words)
      throw new HttpProblem(403, person.says)
    }
    audit.note({ kind: 'signed in', by: person.id, words: `by ${provider.name}` })
    return door.letIn(person, req, res)
  })

  /** Whoever that is here, made where that is allowed; or why nobody, for the list and for them. */
  function personOf(provider: Provider, { subject, signIn, name, email }: Claimed): SignedIn | Refused {
    const inactive = (about: string): Refused => ({
      about,
      words: 'not active',
      says: 'Your account here is not active. Ask whoever runs this installation.',
    })
    return writing(db, (): SignedIn | Refused => {
      const account = accounts.person(provider.issuer, subject)
      if (account) return account.active ? { id: account.id, name: account.name } : inactive(account.id)
      if (signIn === null)
        return {
          about: null,
          words: `no claim ${provider.claim}`,
          says: `${provider.name} did not say who you are here (${provider.claim}). Tell whoever runs this installation.`,
        }
      const known = people.bySignIn(signIn)
      if (known) {
        if (people.one(known.id)!.state === 'inactive') return inactive(known.id)
        if (accounts.has(provider.issuer, known.id))
          return {
            about: known.id,
            words: 'another account over there had that sign-in before',
            says: `The sign-in ${signIn} belonged to another account of ${provider.name} before. Ask whoever runs this installation to invite you again.`,
          }
        accounts.join(provider.issuer, subject, known.id)
        ways.end(known.id)
        return known
      }
      const made = NewPerson.safeParse({ name: name ?? signIn, signIn, email })
      if (!provider.makesPeople || !made.success)
        return {
          about: null,
          words: 'nobody here has that sign-in',
          says: `Nobody here has the sign-in ${signIn.slice(0, 120)}. Ask whoever runs this installation to add you.`,
        }
      const id = randomUUID()
      people.insert(id, made.data)
      accounts.join(provider.issuer, subject, id)
      audit.note({ kind: 'person added', by: id, about: id, words: `${signIn}, at their first sign-in by ${provider.name}` })
      return { id, name: made.data.name }
    })
  }
}

interface Refused {
  about: string | null
  words: string
  says: string
}

function wordsOf({ passphrases, provider }: Settings['signOn']): string {
  const by = provider
    ? `${provider.name} (${provider.issuer}), claim ${provider.claim}, ${provider.makesPeople ? 'makes people' : 'makes nobody'}`
    : 'no provider'
  return `coming in: ${passphrases ? 'passphrases' : 'no passphrases'}, ${by}`
}
