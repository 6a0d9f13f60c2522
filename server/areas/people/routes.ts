import { rateLimit } from 'express-rate-limit'
import type { Express } from 'express'
import { routes } from '#contract'
import { COOKIE, type sessions } from '../../access/sessions'
import type { Clock } from '../../clock'
import type { Db } from '../../db/open'
import { tokenOf, type Handle } from '../../http'
import { HttpProblem, problemBody } from '../../problem'
import { signOnDirectory } from '../../standins/sign-on'

export function peopleRoutes(app: Express, handle: Handle, db: Db, open: ReturnType<typeof sessions>, clock: Clock): void {
  const directory = signOnDirectory(db)
  app.use(
    routes.signIn.path,
    rateLimit({
      windowMs: 60_000,
      limit: 20,
      skip: (req) => req.method !== 'POST',
      skipSuccessfulRequests: true,
      legacyHeaders: false,
      handler: (_req, res) =>
        void res
          .status(429)
          .type('application/problem+json')
          .send(JSON.stringify(problemBody(429, 'Too many tries. Wait a minute and try again.'))),
    }),
  )

  handle(routes.directory, () => directory())

  handle(routes.signIn, async ({ body, req, res }) => {
    const done = await open.signIn(body.signIn, body.passphrase, tokenOf(req))
    if (!done) throw new HttpProblem(401, 'That name and passphrase do not go together.', { field: 'passphrase' })
    res.cookie(COOKIE, done.token, { httpOnly: true, sameSite: 'strict', secure: req.secure, path: '/', maxAge: 7 * 86_400_000 })
    return { ...done.person, keepKey: open.keepKey(done.person.id), timeZone: clock.timeZone }
  })

  handle(routes.me, ({ me: { id, name }, look }) => ({ id, name, look, keepKey: open.keepKey(id), timeZone: clock.timeZone }))

  handle(routes.signOut, ({ req, res }) => {
    open.signOut(tokenOf(req))
    res.clearCookie(COOKIE, { path: '/' })
    return undefined
  })
}
