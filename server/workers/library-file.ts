import mammoth from 'mammoth'
import { zipSync } from 'fflate'
import { readCase } from '#core/exchange/case'
import { standardOf } from '#core/exchange/case-kinds'
import { decodeUnicode } from '#core/exchange/decode-text'
import { FileError, readDelimited, unguarded } from '#core/exchange/delimited'
import { openFile, type Opened } from '#core/exchange/formats'
import { tablesFromHtml } from '#core/exchange/html-table'
import { readRubricSheet } from '#core/exchange/rubric-sheet'
import { readWorkbook } from '#core/exchange/read-workbook'
import type { LibraryFileRead } from '../kernel/standards/library-file'
import { ENTRY } from '../kernel/standards/taken-out'

/**
 * What the library takes: the tables of a CSV, XLSX or DOCX file as rows of text, rubrics of our own sheets, a CASE package, or an entry in a data
 * package.
 * @throws FileError where it cannot be read
 */
export async function libraryFile(bytes: Uint8Array): Promise<LibraryFileRead> {
  const opened = openFile(bytes, ['text', 'workbook', 'document', 'competencies', 'data package'])
  const { format, files } = opened
  if (format === 'competencies') return caseRead(bytes)
  if (format === 'data package') return packedEntry(files)
  const read: LibraryFileRead = { tables: [], rubrics: [], others: [], outcomes: [], unknown: [], notes: [] }
  for (const table of await tablesOf(opened)) {
    const own = readRubricSheet(table, (nth) => `c${nth + 1}`)
    if (!own) read.tables.push(table)
    else {
      read.rubrics.push({ ...own.rubric, title: '', source: null })
      read.notes.push(...own.notes)
    }
  }
  return read
}

/** What a CASE package holds. */
export function caseRead(bytes: Uint8Array): LibraryFileRead {
  const { rubrics, ...read } = readCase(new TextDecoder().decode(bytes))
  // What somebody has to be asked about is asked about as a rubric.
  const others = rubrics.flatMap((r) => (r.unscored ? [] : (standardOf(r) ?? [])))
  return { ...read, tables: [], others, rubrics: rubrics.flatMap(({ kind, ...r }) => (kind === undefined || r.unscored ? [r] : [])) }
}

/** @throws FileError for a data package that holds no entry of a library */
function packedEntry(files: ReadonlyMap<string, Uint8Array>): LibraryFileRead {
  const entry = files.get(ENTRY)
  if (!entry) throw new FileError(`There is no ${ENTRY} in this data package: it holds no rubric, mark scheme, scale or outcome.`)
  return caseRead(entry)
}

async function tablesOf({ format, bytes, files }: Opened): Promise<string[][][]> {
  if (format !== 'document') {
    const { header, rows } =
      format === 'workbook' ? await readWorkbook(files, { alone: true }) : unguarded(readDelimited(decodeUnicode(bytes)))
    return [[header, ...rows.map((r) => r.cells)]]
  }
  // Packed anew from what was counted, so that nothing else is unpacked behind our back; pictures stay out.
  const text = [...files].filter(([name]) => !name.startsWith('word/media/'))
  const buffer = Buffer.from(zipSync(Object.fromEntries(text), { level: 0 }))
  const html = await mammoth.convertToHtml({ buffer }).catch(() => {
    throw new FileError('The document is damaged and cannot be read: open it, save it again as DOCX, and bring that in.')
  })
  const found = tablesFromHtml(html.value)
  if (found.length === 0) throw new FileError('The document holds no table.')
  return found
}
