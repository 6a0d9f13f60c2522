import { readFile, stat } from 'node:fs/promises'
import { decodeUnicode } from '#core/exchange/decode-text'
import { sha256 } from '../kernel/sha256'

const LARGEST = 20 * 2 ** 20

export interface DeliveredFile {
  content: Uint8Array
  kind: 'text' | 'pdf' | 'other'
  hash: string
}

/** A file of the submission box, told by its content and not by its name. @returns a sentence where it cannot be taken over */
export async function readDelivery({ path, fileName }: { path: string; fileName: string }): Promise<DeliveredFile | string> {
  const found = await stat(path).catch(() => null)
  if (!found?.isFile()) return `${fileName} is in the list and not in the box.`
  if (found.size > LARGEST) return `${fileName} is over 20 MB.`
  return known(await readFile(path))
}

/** A file that came as base64. */
export const handedIn = ({ base64 }: { base64: string }): DeliveredFile => known(Buffer.from(base64, 'base64'))

const known = (content: Buffer): DeliveredFile => ({
  content,
  kind: kindOf(content),
  hash: sha256(content),
})

function kindOf(content: Buffer): DeliveredFile['kind'] {
  if (content.subarray(0, 5).toString('latin1') === '%PDF-') return 'pdf'
  if (content.length === 0 || content.subarray(0, 8192).includes(0)) return 'other'
  try {
    decodeUnicode(content)
    return 'text'
  } catch {
    return 'other'
  }
}
