import { Unzip, UnzipInflate } from 'fflate'
import { FileError } from './delimited'
import { joinedBytes } from './joined-bytes'

const MAX_TOTAL = 120_000_000
const MAX_FILES = 200
const CHUNK = 64 * 1024

const endsWhole = (bytes: Uint8Array) => {
  for (let i = bytes.length - 22; i >= Math.max(0, bytes.length - 66_000); i--)
    if (bytes[i] === 0x50 && bytes[i + 1] === 0x4b && bytes[i + 2] === 5 && bytes[i + 3] === 6) return true
  return false
}

/**
 * Unpacks a zip in memory, counting what really comes out and not what the archive says of itself.
 * @param most bytes that may come out of it
 * @throws FileError for an archive that breaks off, or unpacks to more than that or to more than 200 files
 */
export function unzipBounded(bytes: Uint8Array, most = MAX_TOTAL): Map<string, Uint8Array> {
  if (!endsWhole(bytes)) throw new FileError('The file breaks off before its end: save or send it again.')
  const files = new Map<string, Uint8Array>()
  let total = 0
  const unzip = new Unzip((file) => {
    if (files.size >= MAX_FILES) throw new FileError(`The archive holds more than ${MAX_FILES} files.`)
    const parts: Uint8Array[] = []
    files.set(file.name, new Uint8Array())
    file.ondata = (error, data, final) => {
      // What is thrown below comes back here as an error of the unpacker's.
      if (error)
        throw error instanceof FileError ? error : new FileError('The archive is damaged and cannot be unpacked: save or send it again.')
      total += data.length
      if (total > most) throw new FileError(`The file unpacks to more than ${most / 1e6} MB. Bring in only the sheet that is needed.`)
      parts.push(data)
      if (!final) return
      files.set(file.name, joinedBytes(parts))
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
  return files
}
