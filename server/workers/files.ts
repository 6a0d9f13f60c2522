import mammoth from 'mammoth'
import { zipSync } from 'fflate'
import type { MessagePort } from 'node:worker_threads'
import { readCase } from '#core/exchange/case'
import { standardOf } from '#core/exchange/case-kinds'
import { FileError, readDelimited, unguarded } from '#core/exchange/delimited'
import { tablesFromHtml } from '#core/exchange/html-table'
import { readMarksFile, type MarksFile } from '#core/exchange/marks-file'
import { readPeople, type PersonLine } from '#core/exchange/people-lines'
import type { MarksRead } from '#core/exchange/marks-who'
import { readMarks } from '#core/exchange/read-marks'
import { decodeUnicode } from '#core/exchange/decode-text'
import { readRoll } from '#core/exchange/read-roll'
import { readRubricSheet } from '#core/exchange/rubric-sheet'
import type { RollFile, RollMatch } from '#core/exchange/roll-file'
import { unzipBounded } from '#core/exchange/unzip'
import { readWorkbook } from '#core/exchange/workbook'
import type { TriedPackage } from '#contract'
import { bringIn, tryPackage } from '../areas/keeping/package/bring-in'
import { takeOut } from '../areas/keeping/package/take-out'
import { backUp, BackUpError, type BackUp } from '../areas/keeping/back-up'
import { telling } from './telling'
import type { LibraryFileRead } from '../areas/library/library-file'

/** Off the main thread: what files hold. A file that cannot be read comes back as a sentence. */
async function orSentence<T>(work: () => Promise<T>): Promise<T | string> {
  try {
    return await work()
  } catch (e) {
    if (e instanceof FileError) return e.column === null ? e.message : `${e.message} (line ${e.line})`
    throw e
  }
}

export interface RollTask {
  bytes: Uint8Array
  match: RollMatch
  port: MessagePort
}

export const roll = ({ bytes, match, port }: RollTask): Promise<RollFile | string> =>
  telling<RollFile | string, string>(port, (tell) => orSentence(() => readRoll(bytes, match, tell)))

/** The marks in a CSV, an XLSX, or zipped results. */
export function marks(given: ({ bytes: Uint8Array } | { text: string }) & { match?: MarksRead }): Promise<MarksFile | string> {
  // What is wrong with a pasted text stands among its rows.
  return 'text' in given ? Promise.resolve(readMarksFile(given.text, given.match)) : orSentence(() => readMarks(given.bytes, given.match))
}

/** What the library takes: the tables of a CSV, XLSX or DOCX file as rows of text, rubrics of our own sheets, or a CASE package. */
export function library({ bytes }: { bytes: Uint8Array }): Promise<LibraryFileRead | string> {
  return orSentence(async () => {
    // A JSON file begins with a brace, with or without a mark before it.
    const head = new TextDecoder().decode(bytes.subarray(0, 64))
    if (/^\uFEFF?\s*\{/.test(head)) {
      const { rubrics, outcomes } = readCase(new TextDecoder().decode(bytes))
      const others = rubrics.flatMap((r) => standardOf(r) ?? [])
      return { tables: [], notes: [], others, rubrics: rubrics.filter((r) => r.kind === undefined), outcomes }
    }
    const read: LibraryFileRead = { tables: [], rubrics: [], others: [], outcomes: [], notes: [] }
    for (const table of await tablesOf(bytes)) {
      const own = readRubricSheet(table, (nth) => `c${nth + 1}`)
      if (!own) read.tables.push(table)
      else {
        read.rubrics.push({ ...own.rubric, title: '', source: null })
        read.notes.push(...own.notes)
      }
    }
    return read
  })
}

async function tablesOf(bytes: Uint8Array): Promise<string[][][]> {
  if (bytes[0] !== 0x50 || bytes[1] !== 0x4b) {
    const { header, rows } = unguarded(readDelimited(decodeUnicode(bytes)))
    return [[header, ...rows.map((r) => r.cells)]]
  }
  const files = unzipBounded(bytes)
  if (files.has('xl/workbook.xml')) {
    const { header, rows } = await readWorkbook(files)
    return [[header, ...rows.map((r) => r.cells)]]
  }
  if (!files.has('word/document.xml')) throw new FileError('This is no document (DOCX), workbook (XLSX) or CSV file.')
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

/** The people that a list names. */
export const people = ({ text }: { text: string }): Promise<PersonLine[] | string> => orSentence(() => Promise.resolve(readPeople(text)))

export { readBoxList as boxList } from './box-list'
/** A backup, or a sentence why it is none. */
export async function backup(of: { file: string; into: string }): Promise<BackUp | string> {
  try {
    return await backUp(of)
  } catch (e) {
    // A full disk and a folder that cannot be written are for a person to mend.
    if (e instanceof BackUpError || (e as NodeJS.ErrnoException).code !== undefined) return (e as Error).message
    throw e
  }
}

export { issueFile, issueMade, issueParts, issueRows, issuesCompared, officeFile, oneRosterFile } from './issue'
export { countNames, makeNameless } from '../areas/keeping/nameless'
/** A course as a data package, in a file. */
export function takeOutCourse(of: { file: string; courseId: string; into: string }): Record<string, number> {
  return takeOut(of)
}
/** What a data package would do here, or why it cannot be brought in. */
export const triedPackage = (of: { file: string; packed: string }): Promise<TriedPackage | string> => orSentence(() => tryPackage(of))
/** Brings a data package in. */
export const broughtPackage = (of: { file: string; packed: string }): Promise<{ courseId: string } | string> =>
  orSentence(async () => ({ courseId: await bringIn(of) }))

export { judgedColumns } from './judged'
export { sharesOfCourse, standingLevels, standingsRoster } from './standings'
export { handedIn, readDelivery as delivery } from './delivery'
