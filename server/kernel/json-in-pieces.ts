import { pipeline } from 'node:stream/promises'
import { setImmediate } from 'node:timers/promises'
import type { Response } from 'express'

/** How many characters are written before others are answered. */
const A_TURN = 2 ** 18
/** So deep what is large is looked for: a table, its columns. */
const DEPTH = 2

/** A value as JSON, piece by piece: what `JSON.stringify` gives. */
export function* jsonPieces(value: unknown, depth = DEPTH): Generator<string> {
  if (depth === 0 || typeof value !== 'object' || value === null || Array.isArray(value) || 'toJSON' in value) {
    yield JSON.stringify(value)
    return
  }
  let before = '{'
  for (const [key, own] of Object.entries(value)) {
    if (own === undefined) continue
    yield `${before}${JSON.stringify(key)}:`
    yield* jsonPieces(own, depth - 1)
    before = ','
  }
  yield before === '{' ? '{}' : '}'
}

async function* written(value: unknown): AsyncGenerator<string> {
  let text = ''
  for (const piece of jsonPieces(value)) {
    text += piece
    if (text.length < A_TURN) continue
    yield text
    text = ''
    await setImmediate()
  }
  yield text
}

/** Answers with a text, in pieces between which others are answered. Ends early where whoever asked is gone. */
export async function sendText(res: Response, pieces: Iterable<string>): Promise<undefined> {
  const inTurns = async function* () {
    for (const piece of pieces) {
      yield piece
      await setImmediate()
    }
  }
  await pipeline(inTurns(), res).catch((e: NodeJS.ErrnoException) => {
    if (e.code !== 'ERR_STREAM_PREMATURE_CLOSE') throw e
  })
  return undefined
}

/** Answers with a value as JSON, in pieces between which others are answered. Ends early where whoever asked is gone. */
export async function sendInPieces(res: Response, value: unknown): Promise<void> {
  res.type('json')
  await pipeline(written(value), res).catch((e: NodeJS.ErrnoException) => {
    if (e.code !== 'ERR_STREAM_PREMATURE_CLOSE') throw e
  })
}
