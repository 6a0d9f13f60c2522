import { decodeText } from './decode-text'
import { readDelimited, type FileTable } from './delimited'
import { openFile } from './formats'
import { readOneRoster } from './one-roster'
import { columnsOf, readRollTable, rollHeading, type RollFile, type RollMatch } from './roll-file'
import { readWorkbook } from './read-workbook'

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
  const { format, files } = openFile(bytes, ['text', 'workbook', 'roster'], { told })
  if (format === 'roster') {
    told('reading the roster')
    return readOneRoster(files, match.roster)
  }
  let table: FileTable
  let read: Pick<RollFile, 'encoding' | 'sheets'> = { encoding: null, sheets: [] }
  if (format === 'workbook') {
    told('reading the workbook')
    const book = await readWorkbook(files, { findHeading: rollHeading(match), chosen: match.sheets })
    table = book
    read = { encoding: null, sheets: book.sheets }
  } else {
    told('reading the rows')
    const { text, encoding } = decodeText(bytes, match.encoding)
    table = readDelimited(text, rollHeading(match))
    read = { encoding, sheets: [] }
  }
  return { ...readRollTable(table, match.columns ?? columnsOf(table.header, match.known)), ...read }
}
