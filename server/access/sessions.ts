import { createHash, randomBytes } from 'node:crypto'
import { verify } from '@node-rs/argon2'
import { now, type Db } from '../db/open'

const DAYS = 7
export const COOKIE = 'level_table_session'

export interface SignedIn {
  id: string
  name: string
}

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex')

export function sessions(db: Db) {
  const byName = db.prepare<[string], { id: string; name: string; passphrase_hash: string }>(
    'SELECT id, name, passphrase_hash FROM person WHERE sign_in = ? AND active = 1',
  )
  const insert = db.prepare('INSERT INTO session (token_hash, person_id, created_at, expires_at) VALUES (?, ?, ?, ?)')
  const find = db.prepare<[string, string], SignedIn>(
    'SELECT p.id, p.name FROM session s JOIN person p ON p.id = s.person_id WHERE s.token_hash = ? AND s.expires_at > ? AND p.active = 1',
  )
  const remove = db.prepare('DELETE FROM session WHERE token_hash = ? OR expires_at <= ?')

  return {
    /** A new token for who knows the passphrase, replacing an old one; null otherwise. */
    async signIn(signIn: string, passphrase: string, old: string | undefined): Promise<{ person: SignedIn; token: string } | null> {
      const person = byName.get(signIn)
      // A hash is checked either way, so that time does not tell who exists.
      const good = await verify(person?.passphrase_hash ?? DUMMY, passphrase).catch(() => false)
      if (!person || !good) return null
      const token = randomBytes(32).toString('base64url')
      const expires = new Date(Date.now() + DAYS * 86_400_000).toISOString()
      db.transaction(() => {
        remove.run(old ? hashOf(old) : '', now())
        insert.run(hashOf(token), person.id, now(), expires)
      })()
      return { person: { id: person.id, name: person.name }, token }
    },
    who: (token: string | undefined): SignedIn | null => (token ? (find.get(hashOf(token), now()) ?? null) : null),
    signOut: (token: string | undefined) => remove.run(token ? hashOf(token) : '', now()),
  }
}

const DUMMY = '$argon2id$v=19$m=19456,t=2,p=1$c29tZXNhbHRzb21lc2FsdA$Wl0Hm0Bq0vS6dAW1kS9eUuA7xw3Z2kZVjOoqzX0p1uA'
