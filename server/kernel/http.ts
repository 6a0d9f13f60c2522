import { parseCookie } from 'cookie'
import type { Express, Request, Response } from 'express'
import type { z } from 'zod'
import { sightOf } from '#core/roles'
import { LIMITS, type Role, type Route } from '#contract'
import { readBody } from './body'
import type { AuditList } from './access/audit'
import { COOKIE, type Look, type Sessions, type SignedIn } from './access/sessions'
import type { Db } from './db/open'
import { sendInPieces } from './json-in-pieces'
import { HttpProblem } from './problem'

export interface Call<P, B> {
  params: P
  body: B
  req: Request
  res: Response
  /** Who calls; only on routes that anyone may call can it be null. */
  me: SignedIn
  /** Who calls, also on routes that anyone may call; null where nobody is signed in. */
  caller: SignedIn | null
  /** As whom they look at a course meanwhile; in that course `me` is that person. */
  look: Look | null
  /** Their role in the course of the route. */
  role: Role
}

type Handler<R extends Route> = (
  call: Call<z.output<R['params']>, z.output<R['body']>>,
) => z.input<R['response']> | undefined | Promise<z.input<R['response']> | undefined>

/** Over TLS the cookie is one that no other host and no plain request can set. */
export const cookieName = (req: Request): string => (req.secure ? `__Host-${COOKIE}` : COOKIE)
export const tokenOf = (req: Request): string | undefined => parseCookie(req.headers.cookie ?? '')[cookieName(req)]

/** Registers routes of the contract: access first, then their schemas, then the handler. */
export function registrar(app: Express, db: Db, signIns: Sessions, audit: AuditList, origin: string | null = null) {
  const standingIn = db.prepare<[string, string], { role: string; awayAt: string | null }>(
    'SELECT r.role, c.away_at AS awayAt FROM course_role r JOIN course c ON c.id = r.course_id WHERE r.course_id = ? AND r.person_id = ?',
  )

  return function handle<R extends Route>(route: R, handler: Handler<R>): void {
    const method = route.method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete'
    app[method](route.path, async (req, res) => {
      if (route.method !== 'GET') requireSameOrigin(req, origin)
      const me = signIns.who(tokenOf(req))
      if (route.access !== 'anyone' && !me) throw new HttpProblem(401, 'Sign in first.')
      const sentBy = req.get('x-signed-in-as')
      if (route.access !== 'anyone' && me && sentBy !== undefined && sentBy !== me.id)
        throw new HttpProblem(401, 'Somebody else has signed in in this browser since: sign in again. What you typed is kept for you.')
      const look = me?.look ?? null
      if (look && route.method !== 'GET' && !route.mayWhileLooking)
        throw new HttpProblem(403, `You look at it as ${look.name} sees it: nothing can be changed until you look back.`)
      if (route.access === 'admin' && !me!.admin) throw new HttpProblem(403, 'That is for whoever administers this installation.')
      let role: string | undefined
      let as: SignedIn | null = me
      if (Array.isArray(route.access)) {
        if (look?.courseId === req.params.courseId) as = look
        const standing = standingIn.get(String(req.params.courseId), as!.id)
        role = standing?.role
        // A part that this program does not know sees nothing.
        if (!role || sightOf(role).students === 'none') throw new HttpProblem(404, 'There is no such course among yours.')
        if (!route.access.includes(role as Role))
          throw new HttpProblem(403, `That is for ${route.access.join(' and ')}; here you are ${role}.`)
        if (route.method !== 'GET' && standing?.awayAt)
          throw new HttpProblem(
            409,
            'The course is put away: it can be read and not changed. Whoever runs the installation can bring it back.',
          )
      }
      if (Object.keys(req.query).length > 0) throw new HttpProblem(422, `Unknown query field: ${Object.keys(req.query).join(', ')}.`)
      const params = route.params.parse(req.params)
      // Strangers are heard out least, and only where there is something to hear.
      // A package is written to disk as it comes, by whoever handles it.
      const takes = route.takes === 'a package' ? 'a little' : (route.takes ?? (me ? 'usual' : 'a little'))
      const limit = LIMITS[takes]
      const body = route.body.parse(takesBody(route) ? await readBody(req, res, limit) : undefined)
      const answer = await handler({ params, body, req, res, me: as, caller: me, look, role } as Parameters<typeof handler>[0])
      if (route.produces && route.produces !== 'text/event-stream' && me)
        audit.note({
          kind: 'taken out',
          by: me.id,
          courseId: role ? String(req.params.courseId) : null,
          words: route.path.split('/').at(-1)!,
        })
      if (res.headersSent || route.produces) return
      if (answer === undefined) return void res.status(204).end()
      // Strict schemas catch a field that should not leave the server; the check is paid for in tests only.
      const checked = process.env.NODE_ENV === 'test' ? route.response.parse(answer) : answer
      if (route.gives === 'a lot') await sendInPieces(res, checked)
      else {
        // What `res.json` would look up again for each answer is the same for all of them.
        res.setHeader('content-type', 'application/json; charset=utf-8')
        res.end(JSON.stringify(checked))
      }
    })
  }
}

export type Handle = ReturnType<typeof registrar>

const takesBody = (route: Route): boolean => route.body.def.type !== 'undefined'

function requireSameOrigin(req: Request, origin: string | null): void {
  const from = req.get('origin')
  const own = origin ?? `${req.protocol}://${req.get('host')}`
  const same = from ? from === own : req.get('sec-fetch-site') === 'same-origin'
  if (!same) throw new HttpProblem(403, 'Changes are taken from this application’s own pages only.')
}
