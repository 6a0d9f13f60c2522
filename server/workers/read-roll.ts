import type { MessagePort } from 'node:worker_threads'
import { FileError } from '#core/exchange/delimited'
import { readRoll } from '#core/exchange/read-roll'
import type { RollColumns, RollFile } from '#core/exchange/roll-file'

export interface RollTask {
  bytes: Uint8Array
  columns: RollColumns | undefined
  port: MessagePort
}

/** Reads a roll file off the main thread; a file that cannot be read comes back as a sentence. */
export default async function readRollTask({ bytes, columns, port }: RollTask): Promise<RollFile | string> {
  try {
    return await readRoll(bytes, columns, (doing) => port.postMessage(doing))
  } catch (e) {
    if (e instanceof FileError) return e.column === null ? e.message : `${e.message} (line ${e.line})`
    throw e
  } finally {
    port.close()
  }
}
