import type { SignedIn } from './sessions'
import { now, type Db } from '../db/open'

/** As whom a provider knows people here: by what it calls them for good, whatever their sign-in becomes. */
export function providerAccounts(db: Db) {
  const find = db.prepare<[string, string], SignedIn & { active: 0 | 1 }>(
    `SELECT p.id, p.name, p.active FROM sign_on_account a JOIN person p ON p.id = a.person_id WHERE a.issuer = ? AND a.subject = ?`,
  )
  const has = db.prepare<[string, string], { n: number }>('SELECT count(*) AS n FROM sign_on_account WHERE issuer = ? AND person_id = ?')
  const join = db.prepare('INSERT INTO sign_on_account (issuer, subject, person_id, at) VALUES (?, ?, ?, ?)')
  const part = db.prepare('DELETE FROM sign_on_account WHERE person_id = ?')
  return {
    person: (issuer: string, subject: string) => find.get(issuer, subject) ?? null,
    has: (issuer: string, personId: string) => has.get(issuer, personId)!.n > 0,
    join: (issuer: string, subject: string, personId: string) => void join.run(issuer, subject, personId, now()),
    /** They are known by their sign-in alone again. */
    part: (personId: string) => void part.run(personId),
  }
}
