import { FileError, readDelimited, type FileTable } from './delimited'
import { isOneRoster, readOneRoster } from './one-roster'
import { columnsOf, readRollTable, rollHeading, type RollFile, type RollMatch } from './roll-file'
import { unzipBounded } from './unzip'
import { readWorkbook } from './workbook'

const starts = (bytes: Uint8Array, ...head: number[]) => head.every((b, i) => bytes[i] === b)

/** Bytes as text: UTF-8, or UTF-16 where its mark stands first. @throws FileError for any other encoding */
export function decodeText(bytes: Uint8Array): string {
  const utf16 = starts(bytes, 0xff, 0xfe) ? 'utf-16le' : starts(bytes, 0xfe, 0xff) ? 'utf-16be' : null
  try {
    return new TextDecoder(utf16 ?? 'utf-8', { fatal: true }).decode(bytes)
  } catch {
    throw new FileError('Some letters cannot be read: save the file as CSV in UTF-8.')
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
