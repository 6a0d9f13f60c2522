import { routes } from '#contract'
import type { sessions } from '../../access/sessions'
import { SignInLimits } from '../../access/sign-in-limits'
import type { Clock } from '../../clock'
import type { Db } from '../../db/open'
import { cookieName, tokenOf, type Handle } from '../../http'
import { HttpProblem } from '../../problem'
import { signOnDirectory } from '../../standins/sign-on'

export function peopleRoutes(handle: Handle, db: Db, open: ReturnType<typeof sessions>, clock: Clock): void {
  const directory = signOnDirectory(db)
  const limits = new SignInLimits()
  handle(routes.directory, () => directory())

  handle(routes.signIn, async ({ body, req, res }) => {
    const [account, address] = [body.signIn.toLowerCase(), req.ip ?? '']
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
    const done = await open.signIn(body.signIn, body.passphrase, tokenOf(req))
    if (done) limits.succeeded(account, address)
    if (!done) throw new HttpProblem(401, 'That name and passphrase do not go together.', { field: 'passphrase' })
    res.cookie(cookieName(req), done.token, { httpOnly: true, sameSite: 'strict', secure: req.secure, path: '/', maxAge: 7 * 86_400_000 })
    return { ...done.person, keepKey: open.keepKey(done.person.id), timeZone: clock.timeZone }
  })

  handle(routes.me, ({ caller, look, req }) => {
    const openedBy = req.get('x-signed-in-as')
    if (!caller || (openedBy !== undefined && openedBy !== caller.id)) return null
    return { id: caller.id, name: caller.name, look, keepKey: open.keepKey(caller.id), timeZone: clock.timeZone }
  })

  handle(routes.signOut, ({ req, res }) => {
    open.signOut(tokenOf(req))
    res.clearCookie(cookieName(req), { path: '/', secure: req.secure })
    return undefined
  })
}
