import { ENCODINGS } from '../roll/encodings'
import { decodeText } from './decode-text'
import { isDataPackage, packedTable } from './data-package'
import { FileError, readDelimited, unguarded, type FileTable } from './delimited'
import { readMarksTable, type MarksFile } from './marks-file'
import { marksHeading } from './marks-match'
import type { MarksRead } from './marks-who'
import { isRosterResults, readRosterResults } from './roster-results'
import { unzipBounded } from './unzip'
import { readWorkbook } from './workbook'

/**
 * Reads marks from a file of any kind we take: CSV, XLSX, or zipped results of the open roster format; told by its content.
 * @param match how a table is to be read, where somebody said so
 * @throws FileError with a sentence where the file as a whole cannot be read
 */
export async function readMarks(bytes: Uint8Array, match: MarksRead = {}): Promise<MarksFile> {
  if (bytes.length === 0) throw new FileError('The file is empty.')
  let table: FileTable
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) {
    const files = unzipBounded(bytes)
    if (isRosterResults(files)) return readRosterResults(files)
    if (isDataPackage(files)) return readMarksTable(packedTable(files, 'marks'), match)
    if (!files.has('xl/workbook.xml'))
      throw new FileError('This archive is neither a workbook (XLSX), nor results with lineItems.csv and results.csv, nor a data package.')
    table = await readWorkbook(files, marksHeading(match))
  } else {
    const { text, encoding } = decodeText(bytes)
    const read = readMarksTable(unguarded(readDelimited(text, marksHeading(match))), match)
    return encoding === null ? read : { ...read, notes: [`The file is not in UTF-8: it is read as ${ENCODINGS[encoding]}.`, ...read.notes] }
  }
  return readMarksTable(table, match)
}
