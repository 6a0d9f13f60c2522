import type { Request, Response } from 'express'
import type { Me } from '#contract'
import type { Clock } from '../clock'
import type { Db } from '../db/open'
import { cookieName, tokenOf } from '../http'
import { ownSettings } from './own-settings'
import type { Sessions, SignedIn } from './sessions'

/** What whoever is in is told of themselves, and how they come in once it is known who they are. */
export function lettingIn(db: Db, signIns: Sessions, clock: Clock) {
  const isAdmin = db.prepare<[string], { admin: 0 | 1 }>('SELECT admin FROM person WHERE id = ?')
  const settings = ownSettings(db)
  const administers = (id: string) => isAdmin.get(id)!.admin === 1
  const self = ({ id, name }: SignedIn): Omit<Me, 'look'> => ({
    id,
    name,
    admin: administers(id),
    keepKey: signIns.keepKey(id),
    timeZone: clock.timeZone,
    settings: settings.of(id),
  })
  return {
    administers,
    self,
    letIn(person: SignedIn, req: Request, res: Response): Omit<Me, 'look'> {
      const token = signIns.begin(person.id, req.get('user-agent') ?? '', tokenOf(req))
      res.cookie(cookieName(req), token, { httpOnly: true, sameSite: 'strict', secure: req.secure, path: '/', maxAge: 7 * 86_400_000 })
      return self(person)
    },
  }
}

export type LettingIn = ReturnType<typeof lettingIn>
