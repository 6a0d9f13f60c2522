import { randomBytes, randomUUID } from 'node:crypto'
import { EventEmitter } from 'node:events'
import { now, type Db } from '../db/open'
import { sha256 } from '../sha256'
import { isPassphrase } from './passphrase'
import { writing } from '../db/transactions'

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
export type Whom = SignedIn & { admin: boolean; look: Look | null }

/** How long a session may have been still before it is noted that it was seen again. */
const SEEN_EVERY_MS = 10 * 60_000

export function sessions(db: Db) {
  const ended = new EventEmitter().setMaxListeners(0)
  const byName = db.prepare<[string], { id: string; name: string; passphrase_hash: string }>(
    'SELECT id, name, passphrase_hash FROM person WHERE sign_in = ? AND active = 1',
  )
  // Made when somebody signs in for the first time.
  const keepKey = db.prepare<[string], { key: Buffer }>(
    'UPDATE person SET keep_key = coalesce(keep_key, randomblob(32)) WHERE id = ? RETURNING keep_key AS key',
  )
  const insert = db.prepare(
    'INSERT INTO session (token_hash, person_id, created_at, expires_at, id, browser, seen_at) VALUES (?, ?, ?, ?, ?, ?, ?)',
  )
  const came = db.prepare('UPDATE person SET last_sign_in = ? WHERE id = ?')
  const seen = db.prepare('UPDATE session SET seen_at = ? WHERE token_hash = ?')
  const own = db.prepare<[string, string], { id: string; browser: string; since: string; seenAt: string; hash: string }>(
    `SELECT id, browser, created_at AS since, seen_at AS seenAt, token_hash AS hash FROM session WHERE person_id = ? AND expires_at > ?
     ORDER BY seen_at DESC`,
  )
  const removeOne = db.prepare('DELETE FROM session WHERE token_hash = ?')
  interface Found extends SignedIn {
    admin: 0 | 1
    seenAt: string
    lookCourse: string | null
    lookAs: string | null
    lookName: string | null
  }
  const find = db.prepare<[string, string], Found>(
    `SELECT p.id, p.name, p.admin, s.seen_at AS seenAt, l.course_id AS lookCourse, l.as_id AS lookAs, q.name AS lookName FROM session s JOIN person p ON p.id = s.person_id
     LEFT JOIN look l ON l.id = s.look_id LEFT JOIN person q ON q.id = l.as_id WHERE s.token_hash = ? AND s.expires_at > ? AND p.active = 1`,
  )
  const insertLook = db.prepare('INSERT INTO look (id, course_id, by_id, as_id, at) VALUES (?, ?, ?, ?, ?)')
  const setLook = db.prepare('UPDATE session SET look_id = ? WHERE token_hash = ?')
  const endLook = db.prepare(
    'UPDATE look SET ended_at = ? WHERE ended_at IS NULL AND id = (SELECT look_id FROM session WHERE token_hash = ?)',
  )
  const remove = db.prepare('DELETE FROM session WHERE token_hash = ? OR expires_at <= ?')

  return {
    /** Who knows the passphrase; null where nobody does. */
    async known(signIn: string, passphrase: string): Promise<SignedIn | null> {
      const person = byName.get(signIn)
      // A hash is checked either way, so that time does not tell who exists.
      const good = await isPassphrase(person?.passphrase_hash, passphrase)
      return person && good ? { id: person.id, name: person.name } : null
    },
    /** A new token for a person, replacing an old one. @param browser as it calls itself */
    begin(personId: string, browser: string, old: string | undefined): string {
      const token = randomBytes(32).toString('base64url')
      const expires = new Date(Date.now() + DAYS * 86_400_000).toISOString()
      writing(db, () => {
        remove.run(old ? sha256(old) : '', now())
        insert.run(sha256(token), personId, now(), expires, randomUUID(), browser.slice(0, 300), now())
        came.run(now(), personId)
      })
      if (old) ended.emit(sha256(old))
      return token
    },
    who(token: string | undefined): Whom | null {
      const found = token ? find.get(sha256(token), now()) : undefined
      if (!found) return null
      const { id, name, admin, seenAt, lookCourse, lookAs, lookName } = found
      if (Date.now() - Date.parse(seenAt) > SEEN_EVERY_MS) seen.run(now(), sha256(token!))
      return { id, name, admin: admin === 1, look: lookCourse ? { courseId: lookCourse, id: lookAs!, name: lookName! } : null }
    },
    /** Where a person is signed in, the latest seen first. */
    list: (personId: string, token: string | undefined) =>
      own.all(personId, now()).map(({ hash, ...s }) => ({ ...s, own: token !== undefined && hash === sha256(token) })),
    /** Ends sessions of a person: one by its id, or all but the one that asks. @returns how many */
    end(personId: string, which: { id: string } | { butFor: string | undefined }): number {
      const kept = 'butFor' in which && which.butFor ? sha256(which.butFor) : null
      const gone = own.all(personId, now()).filter((s) => ('id' in which ? s.id === which.id : s.hash !== kept))
      writing(db, () => gone.forEach((s) => removeOne.run(s.hash)))
      for (const s of gone) ended.emit(s.hash)
      return gone.length
    },
    /** What seals the work that a person's browser keeps, in base64. */
    keepKey: (personId: string): string => keepKey.get(personId)!.key.toString('base64'),
    signOut(token: string | undefined): void {
      writing(db, () => {
        if (token) endLook.run(now(), sha256(token))
        remove.run(token ? sha256(token) : '', now())
      })
      if (token) ended.emit(sha256(token))
    },
    /** Ends what listens, for all sessions, and no session. */
    hangUp(): void {
      for (const name of ended.eventNames()) ended.emit(name)
    },
    /** Tells when a session ends. @returns what stops that */
    onEnd(token: string, listener: () => void): () => void {
      ended.on(sha256(token), listener)
      return () => ended.off(sha256(token), listener)
    },
    /** From now on the session sees the course as somebody else does; that is kept. */
    look: (token: string, courseId: string, by: string, as: string) =>
      writing(db, () => {
        const id = randomUUID()
        insertLook.run(id, courseId, by, as, now())
        setLook.run(id, sha256(token))
      }),
    lookBack: (token: string) =>
      writing(db, () => {
        endLook.run(now(), sha256(token))
        setLook.run(null, sha256(token))
      }),
  }
}

export type Sessions = ReturnType<typeof sessions>
