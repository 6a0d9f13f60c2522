import { randomUUID } from 'node:crypto'
import { format, parseISO } from 'date-fns'
import type { WayIn } from '#contract'
import type { InstallationSettings } from './installation-settings'
import type { SignedIn } from './sessions'
import type { AuditList } from './audit'
import { LINK_DAYS, type WaysIn } from './ways-in'
import { now, type Db } from '../db/open'
import type { Message, Post } from '../../standins/post'
import { providerAccounts } from './provider-accounts'
import { personQueries } from './people'

export interface Invited {
  wayIn: WayIn
  letter: Message
}

/** Makes one-time links and puts them in the post. The link is in the answer and in the letter, and nowhere else. */
export function inviter(
  db: Db,
  {
    ways,
    post,
    audit,
    settings,
    address,
  }: { ways: WaysIn; post: Post; audit: AuditList; settings: InstallationSettings; address: () => string },
) {
  const people = personQueries(db)
  const accounts = providerAccounts(db)
  return {
    /**
     * An invitation, or for who has come in already a reset. Where passphrases are not used the letter leads to the door. To be written
     * in a transaction of the caller's.
     */
    make(personId: string, by: SignedIn): Invited {
      const { name, signIn, email, admin, state } = people.one(personId)!
      const kind = state === 'invited' ? 'invitation' : 'reset'
      const { passphrases, provider } = settings.signOn()
      accounts.part(personId)
      const way = passphrases || admin ? ways.make(personId, kind, by.id) : null
      if (!way) ways.end(personId)
      // Behind the # it reaches no server's log.
      const link = way ? `${address()}/come-in#${way.token}` : `${address()}/`
      audit.note({ kind: 'link made', by: by.id, about: personId, words: way ? kind : `${kind}, by ${provider!.name}` })
      const of = settings.department() ? ` of ${settings.department()}` : ''
      const body = [
        `${name},`,
        kind === 'invitation'
          ? `${by.name} has made an account for you at Level Table${of}. Your sign-in is ${signIn}.`
          : way
            ? 'A new passphrase can be chosen for your account at Level Table.'
            : `Your account at Level Table${of} can be joined anew with yours at ${provider!.name}.`,
        way ? 'Choose your passphrase here:' : `Come in by ${provider!.name} here:`,
        link,
        ...(way ? [`The link is good once, until ${format(parseISO(way.endsAt), 'EEEE d MMMM')} (${LINK_DAYS} days).`] : []),
        ...(way && provider ? [`You can also come in by ${provider.name}, at ${address()}/`] : []),
        by.name,
      ].join('\n\n')
      const subject =
        kind === 'invitation' ? 'Your way in to Level Table' : way ? 'A new passphrase for Level Table' : 'Your account at Level Table'
      return {
        wayIn: { personId, link, endsAt: way?.endsAt ?? null, sent: true },
        letter: { id: randomUUID(), courseId: null, from: by.name, to: { name, signIn, email }, subject, body, at: now() },
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
