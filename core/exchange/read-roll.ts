import { FileError, readDelimited, type FileTable } from './delimited'
import { isOneRoster, readOneRoster } from './one-roster'
import { columnsOf, readRollTable, rollHeading, type RollFile, type RollMatch } from './roll-file'
import { unzipBounded } from './unzip'
import { readWorkbook } from './workbook'

const starts = (bytes: Uint8Array, ...head: number[]) => head.every((b, i) => bytes[i] === b)

/** Bytes as text: UTF-8, or UTF-16 where its mark stands first. @throws FileError for any other encoding */
export function decodeText(bytes: Uint8Array): string {
  const text = decodedAs(encodingOf(bytes), bytes)
  if (text === null) throw new FileError('Some letters cannot be read: save the file as CSV in UTF-8.')
  return text
}

/** Bytes that stand for nothing in Windows-1252. */
const NOT_1252 = new Set([0x81, 0x8d, 0x8f, 0x90, 0x9d])

/**
 * The same, and what older spreadsheets of western Europe write (Windows-1252), which is said.
 * @throws FileError where it is neither
 */
export function decodeAny(bytes: Uint8Array): { text: string; note: string | null } {
  const text = decodedAs(encodingOf(bytes), bytes)
  if (text !== null) return { text, note: null }
  if (bytes.some((b) => NOT_1252.has(b))) throw new FileError('Some letters cannot be read: save the file as CSV in UTF-8.')
  return { text: decodedAs('windows-1252', bytes)!, note: 'The file is not in UTF-8: it is read as Windows-1252.' }
}

const encodingOf = (bytes: Uint8Array): string =>
  starts(bytes, 0xff, 0xfe) ? 'utf-16le' : starts(bytes, 0xfe, 0xff) ? 'utf-16be' : 'utf-8'

function decodedAs(encoding: string, bytes: Uint8Array): string | null {
  try {
    return new TextDecoder(encoding, { fatal: true }).decode(bytes)
  } catch {
    return null
  }
}

/**
 * Reads a roll from a file of any kind we take: CSV, XLSX, or a zipped roster; told by its content, not its name.
 * @param match how it is to be read, where somebody said so
 * @param told is told what is being done, for progress
 * @throws FileError with a sentence where the file as a whole cannot be read
 */
export async function readRoll(
  bytes: Uint8Array,
  match: RollMatch = {},
  told: (doing: string) => void = () => undefined,
): Promise<RollFile> {
  if (bytes.length === 0) throw new FileError('The file is empty.')
  if (starts(bytes, 0x25, 0x50, 0x44, 0x46)) throw new FileError('This is a PDF. Save the roll as CSV or XLSX and bring that in.')
  if (starts(bytes, 0xd0, 0xcf, 0x11, 0xe0)) throw new FileError('This is an old or a locked workbook. Save it as XLSX without a password.')
  let table: FileTable
  if (starts(bytes, 0x50, 0x4b)) {
    told('unpacking')
    const files = unzipBounded(bytes)
    if (isOneRoster(files)) {
      told('reading the roster')
      return readOneRoster(files)
    }
    if (!files.has('xl/workbook.xml'))
      throw new FileError('This archive is neither a workbook (XLSX) nor a roster with users.csv and enrollments.csv.')
    told('reading the workbook')
    table = await readWorkbook(files, rollHeading(match))
  } else {
    told('reading the rows')
    table = readDelimited(decodeText(bytes), rollHeading(match))
  }
  return readRollTable(table, match.columns ?? columnsOf(table.header, match.known))
}
