import singleBytes from 'iconv-lite'
import { ENCODINGS, type Encoding } from '../roll/encodings'
import { FileError } from './delimited'

export interface Decoded {
  text: string
  /** By which it was read where it is no Unicode, so that a person can look whether that is right; null where it is. */
  encoding: Encoding | null
}

/** Bytes that stand for nothing in Windows-1252; in Windows-1250 some are letters. */
const NOT_1252 = new Set([0x81, 0x8d, 0x8f, 0x90, 0x9d])

const starts = (bytes: Uint8Array, ...head: number[]) => head.every((b, i) => bytes[i] === b)

function decodedAs(encoding: string, bytes: Uint8Array): string | null {
  try {
    return new TextDecoder(encoding, { fatal: true }).decode(bytes)
  } catch {
    return null
  }
}

function unicode(bytes: Uint8Array): string | null {
  const utf16 = starts(bytes, 0xff, 0xfe) ? 'utf-16le' : starts(bytes, 0xfe, 0xff) ? 'utf-16be' : null
  return decodedAs(utf16 ?? 'utf-8', bytes)
}

/** Bytes as text: UTF-8, or UTF-16 where its mark stands first. @throws FileError for any other encoding */
export function decodeUnicode(bytes: Uint8Array): string {
  const text = unicode(bytes)
  if (text === null) throw new FileError('Some letters cannot be read: save the file as CSV in UTF-8.')
  return text
}

/**
 * Bytes as text: UTF-8, UTF-16 where its mark stands first, else as older spreadsheets write it, which is a guess.
 * @param said the encoding that somebody chose
 * @throws FileError where it can't be read so
 */
export function decodeText(bytes: Uint8Array, said?: Encoding): Decoded {
  const plain = unicode(bytes)
  if (plain !== null && (said === undefined || said === 'utf-8')) return { text: plain, encoding: null }
  const encoding = said ?? (bytes.some((b) => NOT_1252.has(b)) ? 'windows-1250' : 'windows-1252')
  // Node's own decoder takes the quotation marks and dashes of Windows-1252 for control characters.
  const text = encoding === 'utf-8' ? plain : singleBytes.decode(bytes, encoding)
  if (text === null || text.includes('\uFFFD'))
    throw new FileError(`Some letters cannot be read as ${ENCODINGS[encoding]}: save the file as CSV in UTF-8.`)
  return { text, encoding }
}
