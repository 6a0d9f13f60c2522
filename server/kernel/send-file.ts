import type { Response } from 'express'

interface SentFile {
  /** As it is saved; null for one that is shown in the page. */
  name: string | null
  /** Its media type. Never one that a browser would run. */
  type: string
  content: string | Uint8Array
}

/** A file as an answer; letters of every script stay in its name, what a disk does not take goes. */
export function sendFile(res: Response, { name, type, content }: SentFile): undefined {
  if (name !== null) res.attachment(name.replace(/[^\p{L}\p{M}\p{N}_. -]/gu, '_'))
  res.type(type).send(typeof content === 'string' ? content : Buffer.from(content))
}
