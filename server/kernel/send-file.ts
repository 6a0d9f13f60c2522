import type { Response } from 'express'
import { MEDIA_TYPES, type Ending } from '#core/exchange/media-types'

type Content = string | Uint8Array

/** A file as an answer, to be saved. */
export const sendFile = (res: Response, title: string, ending: Ending, content: Content): undefined =>
  sendAs(res, `${title}.${ending}`, MEDIA_TYPES[ending], content)

/**
 * A file that somebody handed in, as it came.
 * @param name as it is saved; null for one that is shown in the page
 * @param type its media type: never one that a browser would run
 */
export function sendAs(res: Response, name: string | null, type: string, content: Content): undefined {
  // Letters of every script stay in its name; what a disk does not take goes.
  if (name !== null) res.attachment(name.replace(/[^\p{L}\p{M}\p{N}_. -]/gu, '_'))
  res.type(type.startsWith('text/') ? `${type}; charset=utf-8` : type).send(typeof content === 'string' ? content : Buffer.from(content))
}
