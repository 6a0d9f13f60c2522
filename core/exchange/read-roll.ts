import { FileError, readDelimited, type FileTable } from './delimited'
import { isOneRoster, readOneRoster } from './one-roster'
import { decodeText } from './decode-text'
import { columnsOf, readRollTable, rollHeading, type RollFile, type RollMatch } from './roll-file'
import { unzipBounded } from './unzip'
import { readWorkbook } from './workbook'

const starts = (bytes: Uint8Array, ...head: number[]) => head.every((b, i) => bytes[i] === b)

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
  let read: Pick<RollFile, 'encoding'> = { encoding: null }
  if (starts(bytes, 0x50, 0x4b)) {
    told('unpacking')
    const files = unzipBounded(bytes)
    if (isOneRoster(files)) {
      told('reading the roster')
      return readOneRoster(files, match.roster)
    }
    if (!files.has('xl/workbook.xml'))
      throw new FileError('This archive is neither a workbook (XLSX) nor a roster with users.csv or enrollments.csv.')
    told('reading the workbook')
    table = await readWorkbook(files, rollHeading(match))
  } else {
    told('reading the rows')
    const { text, encoding } = decodeText(bytes, match.encoding)
    table = readDelimited(text, rollHeading(match))
    read = { encoding }
  }
  return { ...readRollTable(table, match.columns ?? columnsOf(table.header, match.known)), ...read }
}
