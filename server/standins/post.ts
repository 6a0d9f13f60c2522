import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { basename, dirname, join } from 'node:path'
import { createTransport } from 'nodemailer'
import type { StandInFaults } from './faults'

export interface Message {
  id: string
  /** Null where it is about no course. */
  courseId: string | null
  from: string
  to: { name: string; signIn: string; email: string | null }
  subject: string
  body: string
  at: string
}

/** The folder of letters that are about no course: those with a way in. */
export const INSTALLATION = 'installation'

/** A real mail server, where the installation has one. */
export interface MailServer {
  /** `smtp://` or `smtps://`, with who signs in there. */
  url: string
  /** The address that letters come from. */
  from: string
}

/**
 * The post. A course's letters are kept as .eml files (RFC 5322) in a folder; where there is a mail server they go out as well, and else
 * nowhere: that is the stand-in.
 */
export function post(folder: string, faults: StandInFaults, mail: MailServer | null = null) {
  const writer = createTransport({ streamTransport: true, buffer: true, newline: 'windows' })
  const out = mail && createTransport({ url: mail.url, connectionTimeout: 10_000, greetingTimeout: 10_000, socketTimeout: 20_000 })
  const addressOf = ({ email, signIn }: Message['to']) => email ?? (signIn.includes('@') ? signIn : null)
  const letterOf = ({ id, from, to, subject, body, at }: Message) => ({
    from: { name: from, address: mail?.from ?? 'level-table@post.invalid' },
    to: { name: to.name, address: addressOf(to) ?? `${to.signIn}@post.invalid` },
    subject,
    text: body,
    date: new Date(at),
    messageId: `<${id}@post.invalid>`,
  })
  const written = async (letter: ReturnType<typeof letterOf>) => (await writer.sendMail(letter)).message as Buffer
  const fileOf = (courseId: string | null, id: string) => join(folder, basename(courseId ?? INSTALLATION), `${basename(id)}.eml`)
  return {
    /** @throws where the letter did not go out, for whatever reason */
    async send({ id, courseId, from, to, subject, body, at }: Message): Promise<void> {
      if (courseId !== null) faults.reach(courseId, 'post')
      const letter = letterOf({ id, courseId, from, to, subject, body, at })
      // A letter with a way in lies in no folder where it can be sent: until it is used, it is as good as a passphrase.
      if (courseId !== null || !out) {
        const file = fileOf(courseId, id)
        mkdirSync(dirname(file), { recursive: true, mode: 0o700 })
        writeFileSync(file, await written(letter), { mode: 0o600 })
      }
      if (out && addressOf(to) === null) throw new Error(`${to.name} has no mail address`)
      if (out) await out.sendMail(letter)
    },
    /** A course's letter as a file; written anew where the course came from another installation, whose files stayed there. */
    read: async (message: Message): Promise<Buffer> => {
      const file = fileOf(message.courseId, message.id)
      return existsSync(file) ? readFileSync(file) : written(letterOf(message))
    },
  }
}
export type Post = ReturnType<typeof post>
