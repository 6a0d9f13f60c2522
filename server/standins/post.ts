import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { basename, dirname, join } from 'node:path'
import { createTransport } from 'nodemailer'
import type { StandInFaults } from './faults'

export interface Message {
  id: string
  courseId: string
  from: string
  to: { name: string; signIn: string }
  subject: string
  body: string
  at: string
}

/** A stand-in for the post: messages are kept as .eml files (RFC 5322) in a folder and go nowhere. */
export function post(folder: string, faults: StandInFaults) {
  const transport = createTransport({ streamTransport: true, buffer: true, newline: 'windows' })
  const fileOf = (courseId: string, id: string) => join(folder, basename(courseId), `${basename(id)}.eml`)
  return {
    async send({ id, courseId, from, to, subject, body, at }: Message): Promise<void> {
      faults.reach(courseId, 'post')
      const { message } = await transport.sendMail({
        from: { name: from, address: 'level-table@post.invalid' },
        to: { name: to.name, address: `${to.signIn}@post.invalid` },
        subject,
        text: body,
        date: new Date(at),
        messageId: `<${id}@post.invalid>`,
      })
      const file = fileOf(courseId, id)
      mkdirSync(dirname(file), { recursive: true, mode: 0o700 })
      writeFileSync(file, message as Buffer, { mode: 0o600 })
    },
    read: (courseId: string, id: string): Buffer => readFileSync(fileOf(courseId, id)),
  }
}
export type Post = ReturnType<typeof post>
