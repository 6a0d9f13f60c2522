import { routes, type Role } from '#contract'
import type { AuditList } from '../../kernel/access/audit'
import { hashOf, refuseEasy } from '../../kernel/access/passphrase'
import type { InstallationSettings } from '../../kernel/access/installation-settings'
import type { LettingIn } from '../../kernel/access/let-in'
import type { Sessions } from '../../kernel/access/sessions'
import { SignInLimits } from '../../kernel/access/sign-in-limits'
import type { SetUpCode } from '../../kernel/access/set-up-code'
import type { WaysIn } from '../../kernel/access/ways-in'
import type { PlanLoader } from '../../kernel/course/load-plan'
import type { Db } from '../../kernel/db/open'
import { cookieName, tokenOf, type Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import { signOnDirectory } from '../../standins/sign-on'
import { personQueries } from '../../kernel/access/people'
import { writing } from '../../kernel/db/transactions'

/** The door: signing in and out, the first person, and one-time links. */
export function doorRoutes(
  handle: Handle,
  db: Db,
  signIns: Sessions,
  {
    audit,
    ways,
    setUp,
    settings,
    door,
    plans,
  }: { audit: AuditList; ways: WaysIn; setUp: SetUpCode; settings: InstallationSettings; door: LettingIn; plans: PlanLoader },
): void {
  const mine = db.prepare<[string], { course_id: string; role: Role }>(
    `SELECT r.course_id, r.role FROM course_role r JOIN course c ON c.id = r.course_id
     WHERE r.person_id = ? AND r.role IN ('lead', 'marker', 'external', 'student') ORDER BY c.first_day DESC, c.code DESC`,
  )

  const directory = signOnDirectory(db)
  const people = personQueries(db)
  const limits = new SignInLimits()
  const { letIn, self, administers } = door
  handle(routes.directory, () => directory())
  handle(routes.installation, () => {
    const { passphrases, provider } = settings.signOn()
    return {
      department: settings.department(),
      needsSetUp: setUp.nobodyIsHere(),
      demo: directory().passphrase !== null,
      passphrases,
      provider: provider?.name ?? null,
    }
  })

  /** Whether that person comes in by a passphrase: who administers always can, so that a provider that fails shuts nobody out for good. */
  const byPassphrase = (personId: string): boolean => settings.signOn().passphrases || administers(personId)
  const onlyByProvider = () => new HttpProblem(403, `Passphrases are not used here: come in by ${settings.signOn().provider!.name}.`)

  /** Counted before anything is looked at. @throws HttpProblem where one has to wait first */
  function tried(account: string, address: string): void {
    const wait = limits.waitFor(account, address)
    if (wait > 0)
      throw new HttpProblem(
        429,
        `Too many tries. Wait ${wait < 60 ? `${wait} seconds` : `${Math.ceil(wait / 60)} minutes`} and try again.`,
        {
          retryAfter: wait,
        },
      )
    limits.tried(account, address)
  }

  handle(routes.signIn, async ({ body, req, res }) => {
    const [account, address] = [body.signIn.toLowerCase(), req.ip ?? '']
    tried(account, address)
    const person = await signIns.known(body.signIn, body.passphrase)
    if (!person) {
      limits.failed(account, address)
      const meant = people.bySignIn(body.signIn)
      audit.note({
        kind: 'not let in',
        by: null,
        about: meant?.id ?? null,
        words: meant ? 'wrong passphrase, or not active' : 'no such sign-in',
      })
      throw new HttpProblem(401, 'That name and passphrase do not go together.', { field: 'passphrase' })
    }
    limits.succeeded(account, address)
    if (!byPassphrase(person.id)) throw onlyByProvider()
    audit.note({ kind: 'signed in', by: person.id, words: '' })
    return letIn(person, req, res)
  })

  handle(routes.courses, ({ caller, look }) =>
    (caller ? mine.all(caller.id) : []).map((r) => plans.head(r.course_id, look?.courseId === r.course_id ? 'marker' : r.role)),
  )
  handle(routes.me, ({ caller, look, req }) => {
    const openedBy = req.get('x-signed-in-as')
    if (!caller || (openedBy !== undefined && openedBy !== caller.id)) return null
    return { ...self(caller), look }
  })

  handle(routes.signOut, ({ req, res }) => {
    signIns.signOut(tokenOf(req))
    res.clearCookie(cookieName(req), { path: '/', secure: req.secure })
    return undefined
  })

  handle(routes.setUp, async ({ body, req, res }) => {
    if (!setUp.nobodyIsHere()) throw new HttpProblem(409, 'This installation is set up already. Sign in.')
    tried('set-up code', req.ip ?? '')
    if (setUp.fits(body.code)) limits.succeeded('set-up code', req.ip ?? '')
    else limits.failed('set-up code', req.ip ?? '')
    if (!setUp.fits(body.code))
      throw new HttpProblem(422, 'That is not the code: it stands in the console that the server was started from.', { field: 'code' })
    refuseEasy(body.passphrase, [body.name, body.signIn, body.department])
    const hash = await hashOf(body.passphrase)
    const id = crypto.randomUUID()
    writing(db, () => {
      // Somebody else may have been quicker while the passphrase was worked on.
      if (!setUp.nobodyIsHere()) throw new HttpProblem(409, 'This installation is set up already. Sign in.')
      people.insert(id, { name: body.name, signIn: body.signIn, email: body.email, externalId: null })
      people.choosePassphrase(id, hash)
      db.prepare('UPDATE person SET admin = 1 WHERE id = ?').run(id)
      settings.setDepartment(body.department)
      audit.note({ kind: 'set up', by: id, words: body.department })
    })
    return letIn({ id, name: body.name }, req, res)
  })

  /** Nobody guesses a link of 192 bits, so that tries are not counted. @throws HttpProblem where it leads nowhere */
  function wayIn(token: string) {
    const found = ways.find(token)
    if (typeof found === 'string') throw new HttpProblem(410, found)
    if (!byPassphrase(found.personId)) throw onlyByProvider()
    return found
  }

  handle(routes.lookAtWayIn, ({ body }) => {
    const { name, signIn, kind } = wayIn(body.token)
    return { name, signIn, kind, department: settings.department() }
  })

  handle(routes.useWayIn, async ({ body, req, res }) => {
    const { personId, name, signIn } = wayIn(body.token)
    refuseEasy(body.passphrase, [name, signIn, settings.department()])
    const hash = await hashOf(body.passphrase)
    writing(db, () => {
      if (!ways.use(body.token)) throw new HttpProblem(410, 'That link was used already. Sign in, or ask for a new one.')
      people.choosePassphrase(personId, hash)
      audit.note({ kind: 'link used', by: personId, words: '' })
    })
    signIns.end(personId, { butFor: undefined })
    return letIn({ id: personId, name }, req, res)
  })
}
