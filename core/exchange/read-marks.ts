import { ENCODINGS } from '../roll/encodings'
import { decodeText } from './decode-text'
import { packedTable } from './data-package'
import { readDelimited, unguarded } from './delimited'
import { openFile } from './formats'
import { readMarksTable, type MarksFile } from './marks-file'
import { marksHeading } from './marks-match'
import type { MarksRead } from './marks-who'
import { readRosterResults } from './roster-results'
import { readWorkbook } from './read-workbook'

/**
 * Reads marks from a file of any kind we take: CSV, XLSX, or zipped results of the open roster format; told by its content.
 * @param match how a table is to be read, where somebody said so
 * @throws FileError with a sentence where the file as a whole cannot be read
 */
export async function readMarks(bytes: Uint8Array, match: MarksRead = {}): Promise<MarksFile> {
  const { format, files } = openFile(bytes, ['text', 'workbook', 'roster results', 'data package'])
  if (format === 'roster results') return readRosterResults(files)
  if (format === 'data package') return readMarksTable(packedTable(files, 'marks'), match)
  if (format === 'workbook') {
    const book = await readWorkbook(files, { findHeading: marksHeading(match), chosen: match.sheets })
    return { ...readMarksTable(book, match), sheets: book.sheets }
  }
  const { text, encoding } = decodeText(bytes)
  const read = readMarksTable(unguarded(readDelimited(text, marksHeading(match))), match)
  return encoding === null ? read : { ...read, notes: [`The file is not in UTF-8: it is read as ${ENCODINGS[encoding]}.`, ...read.notes] }
}
