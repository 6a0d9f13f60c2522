import { Unzip, UnzipInflate } from 'fflate'
import { FileError } from './delimited'
import { joinedBytes } from './joined-bytes'

const MAX_TOTAL = 120_000_000
const MAX_FILES = 200
/** What is pushed at once may come out a thousand times as large. */
const CHUNK = 16 * 1024

const endsWhole = (bytes: Uint8Array) => {
  for (let i = bytes.length - 22; i >= Math.max(0, bytes.length - 66_000); i--)
    if (bytes[i] === 0x50 && bytes[i + 1] === 0x4b && bytes[i + 2] === 5 && bytes[i + 3] === 6) return true
  return false
}

/** Takes a file of an archive, part by part; `last` with its end. */
export type TakePart = (part: Uint8Array, last: boolean) => void

/**
 * Unpacks a zip part by part, counting what really comes out and not what the archive says of itself.
 * @param take for each file, by its name, what takes its parts; null where it is not wanted, and is not unpacked
 * @param most bytes that may come out of it
 * @throws FileError for an archive that breaks off, or unpacks to more than that or to more than 200 files
 */
export function unzipTo(bytes: Uint8Array, take: (name: string) => TakePart | null, most = MAX_TOTAL): void {
  if (!endsWhole(bytes)) throw new FileError('The file breaks off before its end: save or send it again.')
  let count = 0
  let total = 0
  const unzip = new Unzip((file) => {
    if (++count > MAX_FILES) throw new FileError(`The archive holds more than ${MAX_FILES} files.`)
    const part = take(file.name)
    if (!part) return
    file.ondata = (error, data, final) => {
      // What is thrown below comes back here as an error of the unpacker's.
      if (error)
        throw error instanceof FileError ? error : new FileError('The archive is damaged and cannot be unpacked: save or send it again.')
      total += data.length
      if (total > most)
        throw new FileError(`The file unpacks to more than ${Math.round(most / 1e6)} MB. Bring in only the sheet that is needed.`)
      part(data, final)
    }
    file.start()
  })
  unzip.register(UnzipInflate)
  try {
    for (let at = 0; at < bytes.length; at += CHUNK) unzip.push(bytes.subarray(at, at + CHUNK), at + CHUNK >= bytes.length)
  } catch (e) {
    if (e instanceof FileError) throw e
    throw new FileError('The archive is damaged and cannot be unpacked: save or send it again.')
  }
}

/** The same in memory, each file whole. */
export function unzipBounded(bytes: Uint8Array, most = MAX_TOTAL): Map<string, Uint8Array> {
  const files = new Map<string, Uint8Array>()
  unzipTo(
    bytes,
    (name) => {
      const parts: Uint8Array[] = []
      files.set(name, new Uint8Array())
      return (part, last) => {
        parts.push(part)
        if (last) files.set(name, joinedBytes(parts))
      }
    },
    most,
  )
  return files
}

/** The names of an archive's files, none of them unpacked. */
export function unzipNames(bytes: Uint8Array): Map<string, Uint8Array> {
  const files = new Map<string, Uint8Array>()
  unzipTo(bytes, (name) => {
    files.set(name, new Uint8Array())
    return null
  })
  return files
}
