import express from 'express'
import type { Request, Response } from 'express'
import { LIMITS } from '#contract'
import { HttpProblem, tooLarge } from './problem'

interface Limit {
  bytes: number
  values: number
  depth: number
}

const readers = new Map(
  Object.values(LIMITS).map((limit) => [limit as Limit, express.raw({ type: () => true, limit: limit.bytes, inflate: false })]),
)

/**
 * The body of a request as JSON, read only once it is known who sends it: refused by its size as it comes, and by how much is in
 * it before any of that is built. Packed bodies are not taken: what comes out of them cannot be told from what goes in.
 * @returns undefined where there is none
 */
export async function readBody(req: Request, res: Response, limit: Limit): Promise<unknown> {
  const encoding = req.get('content-encoding') ?? 'identity'
  if (encoding.toLowerCase() !== 'identity') throw new HttpProblem(415, 'Send it as it is: packed requests are not taken.')
  const length = Number(req.get('content-length') ?? 0)
  if (length > limit.bytes) throw tooLarge(limit.bytes)
  await new Promise<void>((done, failed) => readers.get(limit)!(req, res, (e?: unknown) => (e ? failed(e as Error) : done())))
  const bytes = (req as { body?: unknown }).body
  if (!Buffer.isBuffer(bytes) || bytes.length === 0) return undefined
  if (!/^application\/json\b/i.test(req.get('content-type') ?? '')) throw new HttpProblem(415, 'Send JSON (application/json).')
  refuseOverfull(bytes, limit)
  try {
    return JSON.parse(bytes.toString('utf8')) as unknown
  } catch {
    throw new HttpProblem(400, 'The request is not valid JSON.')
  }
}

const [QUOTE, BACKSLASH, COMMA, OPEN, CLOSE, BRACE, END] = [0x22, 0x5c, 0x2c, 0x5b, 0x5d, 0x7b, 0x7d]

/**
 * Counts values and nesting in the bytes of a JSON text.
 * @throws HttpProblem 413 where there are more than the limit has
 */
export function refuseOverfull(bytes: Buffer, { values, depth }: Pick<Limit, 'values' | 'depth'>): void {
  let count = 0
  let open = 0
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i]
    if (byte === QUOTE) {
      // To the quotation mark that ends the text: one with an even number of backslashes before it.
      for (;;) {
        i = bytes.indexOf(QUOTE, i + 1)
        if (i < 0) return
        let slashes = 0
        while (bytes[i - 1 - slashes] === BACKSLASH) slashes++
        if (slashes % 2 === 0) break
      }
    } else if (byte === COMMA) count++
    else if (byte === OPEN || byte === BRACE) {
      count++
      if (++open > depth) throw new HttpProblem(413, `It is nested deeper than ${depth} levels.`)
    } else if (byte === CLOSE || byte === END) open--
    if (count > values) throw new HttpProblem(413, `It holds more than ${values} values. Bring it in in parts.`)
  }
}
