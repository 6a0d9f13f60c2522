import { randomUUID } from 'node:crypto'
import { format, parseISO } from 'date-fns'
import type { WayIn } from '#contract'
import type { SignedIn } from '../../access/sessions'
import type { AuditList } from '../../access/audit'
import { LINK_DAYS, type WaysIn } from '../../access/ways-in'
import { now, type Db } from '../../db/open'
import type { Message, Post } from '../../standins/post'

export interface Invited {
  wayIn: WayIn
  letter: Message
}

/** Makes one-time links and puts them in the post. The link is in the answer and in the letter, and nowhere else. */
export function inviter(db: Db, ways: WaysIn, post: Post, audit: AuditList, address: () => string) {
  const person = db.prepare<[string], Message['to'] & { hash: string }>(
    'SELECT name, sign_in AS signIn, email, passphrase_hash AS hash FROM person WHERE id = ?',
  )
  const department = db.prepare<[], { value: string }>("SELECT value FROM setting WHERE key = 'department'")
  return {
    /** An invitation, or for who has a passphrase already a reset. To be written in a transaction of the caller's. */
    make(personId: string, by: SignedIn): Invited {
      const { hash, ...to } = person.get(personId)!
      const kind = hash === '' ? 'invitation' : 'reset'
      const { token, endsAt } = ways.make(personId, kind, by.id)
      // Behind the # it reaches no server's log.
      const link = `${address()}/come-in#${token}`
      audit.note({ kind: 'link made', by: by.id, about: personId, words: kind })
      const what =
        kind === 'invitation'
          ? `${by.name} has made an account for you at Level Table${department.get()?.value ? ` of ${department.get()!.value}` : ''}. Your sign-in is ${to.signIn}.`
          : 'A new passphrase can be chosen for your account at Level Table.'
      const body = [
        `${to.name},`,
        `${what} Choose your passphrase here:`,
        link,
        `The link is good once, until ${format(parseISO(endsAt), 'EEEE d MMMM')} (${LINK_DAYS} days).`,
        by.name,
      ].join('\n\n')
      const subject = kind === 'invitation' ? 'Your way in to Level Table' : 'A new passphrase for Level Table'
      return {
        wayIn: { personId, link, endsAt, sent: true },
        letter: { id: randomUUID(), courseId: null, from: by.name, to, subject, body, at: now() },
      }
    },
    /** Sends the letters; a link whose letter did not go out says why, and can be handed over. */
    async send(invited: readonly Invited[]): Promise<WayIn[]> {
      const done: WayIn[] = []
      for (const { wayIn, letter } of invited)
        done.push(
          await post.send(letter).then(
            () => wayIn,
            (e: unknown) => ({
              ...wayIn,
              sent: `The letter did not go out (${e instanceof Error ? e.message : String(e)}): hand the link over.`,
            }),
          ),
        )
      return done
    },
  }
}

export type Inviter = ReturnType<typeof inviter>
