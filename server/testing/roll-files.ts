import type { RollProgress, TriedRoll } from '#contract'
import { api, type Client } from './serve'

/** The day from which moves count. */
export const FROM = '2026-11-24'

interface Sent {
  tried?: TriedRoll
  fileId?: string
  problem?: string
}

/** Tries files of students or brings them in, and gives back the last line of the streamed answer. */
export const rollFiles =
  (lead: Client) =>
  async (which: 'try' | 'bring in', file: string | Uint8Array, more: object = {}): Promise<Sent> => {
    const base64 = Buffer.from(file as string).toString('base64')
    const body = { file: base64, from: FROM, ...(which === 'try' ? {} : { withdraw: [], name: 'roll.csv' }), ...more }
    const answer = await lead('post', api(`/roll-file${which === 'try' ? '/try' : ''}`), body)
      .buffer(true)
      .parse((res, done) => {
        let text = ''
        res.on('data', (d: Buffer) => (text += d.toString()))
        res.on('end', () => done(null, text))
      })
    const lines = (answer.body as string).trim().split('\n')
    return JSON.parse(lines.at(-1)!) as RollProgress as Sent
  }
