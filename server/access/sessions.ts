import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { EventEmitter } from 'node:events'
import { verify } from '@node-rs/argon2'
import { now, type Db } from '../db/open'

const DAYS = 7
export const COOKIE = 'level_table_session'

export interface SignedIn {
  id: string
  name: string
}
export interface Look extends SignedIn {
  courseId: string
}
/** Who is signed in, and as whom they look at a course meanwhile. */
export type Whom = SignedIn & { look: Look | null }

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex')

export function sessions(db: Db) {
  const ended = new EventEmitter().setMaxListeners(0)
  const byName = db.prepare<[string], { id: string; name: string; passphrase_hash: string }>(
    'SELECT id, name, passphrase_hash FROM person WHERE sign_in = ? AND active = 1',
  )
  // Made when somebody signs in for the first time.
  const keepKey = db.prepare<[string], { key: Buffer }>(
    'UPDATE person SET keep_key = coalesce(keep_key, randomblob(32)) WHERE id = ? RETURNING keep_key AS key',
  )
  const insert = db.prepare('INSERT INTO session (token_hash, person_id, created_at, expires_at) VALUES (?, ?, ?, ?)')
  const find = db.prepare<[string, string], SignedIn & { lookCourse: string | null; lookAs: string | null; lookName: string | null }>(
    `SELECT p.id, p.name, l.course_id AS lookCourse, l.as_id AS lookAs, q.name AS lookName FROM session s JOIN person p ON p.id = s.person_id
     LEFT JOIN look l ON l.id = s.look_id LEFT JOIN person q ON q.id = l.as_id WHERE s.token_hash = ? AND s.expires_at > ? AND p.active = 1`,
  )
  const insertLook = db.prepare('INSERT INTO look (id, course_id, by_id, as_id, at) VALUES (?, ?, ?, ?, ?)')
  const setLook = db.prepare('UPDATE session SET look_id = ? WHERE token_hash = ?')
  const endLook = db.prepare(
    'UPDATE look SET ended_at = ? WHERE ended_at IS NULL AND id = (SELECT look_id FROM session WHERE token_hash = ?)',
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
      if (old) ended.emit(hashOf(old))
      return { person: { id: person.id, name: person.name }, token }
    },
    who(token: string | undefined): Whom | null {
      const found = token ? find.get(hashOf(token), now()) : undefined
      if (!found) return null
      const { id, name, lookCourse, lookAs, lookName } = found
      return { id, name, look: lookCourse ? { courseId: lookCourse, id: lookAs!, name: lookName! } : null }
    },
    /** What seals the work that a person's browser keeps, in base64. */
    keepKey: (personId: string): string => keepKey.get(personId)!.key.toString('base64'),
    signOut(token: string | undefined): void {
      db.transaction(() => {
        if (token) endLook.run(now(), hashOf(token))
        remove.run(token ? hashOf(token) : '', now())
      })()
      if (token) ended.emit(hashOf(token))
    },
    /** Tells when a session ends. @returns what stops that */
    onEnd(token: string, listener: () => void): () => void {
      ended.on(hashOf(token), listener)
      return () => ended.off(hashOf(token), listener)
    },
    /** From now on the session sees the course as somebody else does; that is kept. */
    look: (token: string, courseId: string, by: string, as: string) =>
      db.transaction(() => {
        const id = randomUUID()
        insertLook.run(id, courseId, by, as, now())
        setLook.run(id, hashOf(token))
      })(),
    lookBack: (token: string) =>
      db.transaction(() => {
        endLook.run(now(), hashOf(token))
        setLook.run(null, hashOf(token))
      })(),
  }
}

const DUMMY = '$argon2id$v=19$m=19456,t=2,p=1$c29tZXNhbHRzb21lc2FsdA$Wl0Hm0Bq0vS6dAW1kS9eUuA7xw3Z2kZVjOoqzX0p1uA'
