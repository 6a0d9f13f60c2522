import { routes, type Account } from '#contract'
import type { AuditList } from '../../kernel/access/audit'
import { hashOf, isPassphrase, refuseEasy } from '../../kernel/access/passphrase'
import type { Sessions } from '../../kernel/access/sessions'
import { SignInLimits } from '../../kernel/access/sign-in-limits'
import type { Db } from '../../kernel/db/open'
import { tokenOf, type Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import { ownSettings } from '../../kernel/access/own-settings'
import { personQueries } from '../../kernel/access/people'

/** What is one's own: name, passphrase, and where one is signed in. */
export function accountRoutes(handle: Handle, db: Db, signIns: Sessions, audit: AuditList): void {
  const people = personQueries(db)
  const settings = ownSettings(db)
  const limits = new SignInLimits()
  const passphrase = db.prepare<[string], { hash: string }>('SELECT passphrase_hash AS hash FROM person WHERE id = ?')
  const account = (id: string, token: string | undefined): Account => {
    const { name, signIn, email, hasPassphrase, version } = people.one(id)!
    return { name, signIn, email, hasPassphrase, version, sessions: signIns.list(id, token) }
  }

  handle(routes.account, ({ caller, req }) => account(caller!.id, tokenOf(req)))

  handle(routes.editAccount, ({ body: { version, ...change }, caller, req }) => {
    const before = people.one(caller!.id)!
    if (!people.update(before.id, version, { ...before, active: true, ...change }))
      throw new HttpProblem(409, 'Your account was changed meanwhile: here it is as it is now.', {
        current: account(before.id, tokenOf(req)),
      })
    audit.note({ kind: 'person changed', by: before.id, about: before.id, words: Object.keys(change).join(', ') })
    return account(before.id, tokenOf(req))
  })

  handle(routes.keepOwnSettings, ({ body, caller }) => {
    settings.keep(caller!.id, body)
    return undefined
  })

  handle(routes.changePassphrase, async ({ body, caller, req }) => {
    const { id } = caller!
    const wait = limits.waitFor(id, req.ip ?? '')
    if (wait > 0) throw new HttpProblem(429, `Too many tries. Wait ${wait} seconds and try again.`, { retryAfter: wait })
    limits.tried(id, req.ip ?? '')
    if (!(await isPassphrase(passphrase.get(id)!.hash, body.old)))
      throw new HttpProblem(422, 'That is not the passphrase you have now.', { field: 'old' })
    limits.succeeded(id, req.ip ?? '')
    const { name, signIn } = people.one(id)!
    refuseEasy(body.passphrase, [name, signIn])
    people.choosePassphrase(id, await hashOf(body.passphrase))
    signIns.end(id, { butFor: tokenOf(req) })
    audit.note({ kind: 'passphrase changed', by: id, about: id, words: '' })
    return undefined
  })

  handle(routes.endSession, ({ params: { sessionId }, caller }) => {
    if (signIns.end(caller!.id, { id: sessionId }) === 0) throw new HttpProblem(404, 'That session has ended already.')
    audit.note({ kind: 'session ended', by: caller!.id, about: caller!.id, words: 'one' })
    return undefined
  })

  handle(routes.endOtherSessions, ({ caller, req }) => {
    const ended = signIns.end(caller!.id, { butFor: tokenOf(req) })
    audit.note({ kind: 'session ended', by: caller!.id, about: caller!.id, words: `${ended} others` })
    return undefined
  })
}
