import { randomBytes } from 'node:crypto'
import { addDays } from 'date-fns'
import type { Db } from '../db/open'
import { now } from '../db/open'
import { sha256 } from '../sha256'

export const LINK_DAYS = 7

export interface FoundWayIn {
  personId: string
  name: string
  signIn: string
  kind: 'invitation' | 'reset'
}

/** One-time links by which people choose their passphrase: known by their hash alone, good once and for seven days. */
export function waysIn(db: Db) {
  const replace = db.prepare("UPDATE way_in SET ended = 'replaced' WHERE person_id = ? AND ended IS NULL")
  const insert = db.prepare('INSERT INTO way_in (token_hash, person_id, kind, by_id, at, ends_at) VALUES (?, ?, ?, ?, ?, ?)')
  const find = db.prepare<[string], FoundWayIn & { endsAt: string; ended: string | null; active: 0 | 1 }>(
    `SELECT w.person_id AS personId, p.name, p.sign_in AS signIn, w.kind, w.ends_at AS endsAt, w.ended, p.active FROM way_in w
     JOIN person p ON p.id = w.person_id WHERE w.token_hash = ?`,
  )
  const use = db.prepare("UPDATE way_in SET ended = 'used' WHERE token_hash = ? AND ended IS NULL")
  return {
    /** A new link's token, in place of any before it. */
    make(personId: string, kind: 'invitation' | 'reset', by: string | null): { token: string; endsAt: string } {
      const token = randomBytes(24).toString('base64url')
      const endsAt = addDays(new Date(), LINK_DAYS).toISOString()
      replace.run(personId)
      insert.run(sha256(token), personId, kind, by, now(), endsAt)
      return { token, endsAt }
    },
    /** @returns a sentence where it leads nowhere */
    find(token: string): FoundWayIn | string {
      const found = find.get(sha256(token))
      if (!found) return 'That link is not known here: copy it again, whole.'
      if (found.ended === 'used') return 'That link was used already. Sign in, or ask for a new one.'
      if (!found.active) return 'Your sign-in is blocked. Ask the people who run this installation.'
      if (found.ended === 'replaced') return 'There is a newer link than that one: use the latest that was sent to you.'
      if (found.endsAt <= now()) return `That link was good for ${LINK_DAYS} days, which are over. Ask for a new one.`
      const { personId, name, signIn, kind } = found
      return { personId, name, signIn, kind }
    },
    /** @returns whether it was good until now */
    use: (token: string): boolean => use.run(sha256(token)).changes === 1,
    end: (personId: string): void => void replace.run(personId),
  }
}

export type WaysIn = ReturnType<typeof waysIn>
