import { randomUUID } from 'node:crypto'
import type { Message, Post } from '../standins/post'
import { now, type Db } from './db/open'
import { writing } from './db/transactions'

export interface Sender {
  id: string
  name: string
}

export interface Written {
  to: Message['to']
  toId: string
  subject: string
  body: string
}

/** Sends letters of a course through the post and keeps those that went. */
export function letterSender(db: Db, post: Post) {
  const insert = db.prepare('INSERT INTO letter (id, course_id, by_id, to_id, subject, body, at) VALUES (?, ?, ?, ?, ?, ?, ?)')
  /** What could not be sent stays unsent: what it tells of is there all the same. @returns how many went */
  return async function send(courseId: string, from: Sender, letters: readonly Written[]): Promise<number> {
    const at = now()
    const sent: (Message & { toId: string })[] = []
    for (const { to, toId, subject, body } of letters) {
      const message = { id: randomUUID(), courseId, from: from.name, to, toId, subject, body, at }
      try {
        await post.send(message)
        sent.push(message)
      } catch {
        break
      }
    }
    writing(db, () => {
      for (const m of sent) insert.run(m.id, courseId, from.id, m.toId, m.subject, m.body, m.at)
    })
    return sent.length
  }
}
