import { MOST_REMARK } from '../marking/cell-value'
import { FileError, readDelimited, rowFault, unguarded, type FileTable } from './delimited'
import { marksHeading, matchedBefore, whoIn } from './marks-match'
import type { MarksRead, MarksTable, WhoBy } from './marks-who'
import type { SheetOfFile } from './sheets-of-file'
import { recogniseColumns } from './roll-file'

/** One cell of a file of marks, with its place for messages. */
export interface FileMark {
  line: number
  column: string
  /** Whose it is: a candidate number, or what `by` says. */
  candidate: string
  by?: WhoBy
  assessment: string
  text: string
  /** What the student is to read beside it. */
  remark?: string
  /** What the mark is out of, where the file says so. */
  outOf?: number
  /** When the sheet was taken out that the file goes back to, where it says so. */
  asOf?: string
}

export interface FileFault {
  line: number
  column: string | null
  candidate: string
  assessment: string
  reason: string
}

export interface MarksFile {
  marks: FileMark[]
  faults: FileFault[]
  /** What was understood of the file as a whole that is written otherwise here, in words. */
  notes: string[]
  /** How the table was read; null for a format that fixes its columns. */
  table: MarksTable | null
  /** Of a workbook. */
  sheets?: SheetOfFile[]
}

const MOST_MARKS = 1_000_000
const CANDIDATE = ['candidate', 'candidate number', 'candidate no', 'candidate no.', 'number']
const IGNORED = ['name', 'student', 'section']
/** What is said of a file whose columns were matched by hand before, and of columns that were not there then. */
function asBefore(left: readonly string[]): string[] {
  const before = 'The columns are read as they were matched by hand the last time, for a file with this heading.'
  if (left.length === 0) return [before]
  const names = left.slice(0, 5).map((n) => `“${n.slice(0, 40)}”`)
  return [
    before,
    `Not read, as nobody has said what they are: ${names.join(', ')}${left.length > 5 ? ` and ${left.length - 5} more` : ''}.`,
  ]
}
/** Heading of the column that says when a sheet was taken out. */
export const AS_OF = 'as of'

const RESERVED = new Set([...CANDIDATE, ...IGNORED, AS_OF, 'assessment', 'mark', 'status', 'days late', 'remark'])
const MARK_OF = 'mark of '
/** How the column of an assessment is headed: by its title, said to be one where it reads like another heading of ours. */
export const headingOf = (title: string): string =>
  RESERVED.has(title.toLowerCase()) || title.toLowerCase().startsWith(MARK_OF) ? `${MARK_OF}${title}` : title
const titleIn = (heading: string): string => (heading.toLowerCase().startsWith(MARK_OF) ? heading.slice(MARK_OF.length) : heading)

/**
 * Reads a CSV file of marks (RFC 4180; comma, semicolon or tab; with or without BOM). Wide: a column that says
 * whose (number, id from outside, mail address or name) and a column an assessment. Long: candidate, assessment and mark, with status, days late and a remark if wanted.
 * Faults name line and column; whether candidates and assessments exist is for the caller to say.
 */
export function readMarksFile(text: string, match: MarksRead = {}): MarksFile {
  const fault = (reason: string, line = 1, column: string | null = null): MarksFile => ({
    marks: [],
    faults: [{ line, column, candidate: '', assessment: '', reason }],
    notes: [],
    table: null,
  })
  try {
    return readMarksTable(unguarded(readDelimited(text, marksHeading(match))), match)
  } catch (e) {
    if (e instanceof FileError) return fault(e.message, e.line, e.column)
    throw e
  }
}

/** Marks of a table, wide or long, whatever file it came from. */
export function readMarksTable({ header: names, headingLine = 1, rows }: FileTable, match: MarksRead = {}): MarksFile {
  const lower = names.map((n) => n.toLowerCase())
  const before = match.who || match.marks ? undefined : matchedBefore(names, match)
  const who = match.who ?? before?.who ?? whoIn(names)
  const chosen = match.marks ?? before?.marks
  const long = chosen === undefined && lower.includes('assessment')
  const asOfAt = lower.indexOf(AS_OF)
  const marks = long ? [] : [...(chosen ?? named())]
  /** Every column that says nothing else is headed by its assessment. */
  function named() {
    const others = new Set([who?.column, asOfAt, ...Object.values(recogniseColumns(names))])
    return names.flatMap((name, column) =>
      name === '' || others.has(column) || IGNORED.includes(lower[column]!) ? [] : [{ column, assessment: titleIn(name) }],
    )
  }
  const isNew = (name: string) =>
    name !== '' && !match.known?.some((k) => k.header.some((h) => h.trim().toLowerCase() === name.toLowerCase()))
  const result: MarksFile = {
    marks: [],
    faults: [],
    notes: before ? asBefore(names.filter(isNew)) : [],
    table: { header: names, headingLine, who, marks },
  }
  if (!who) {
    const reason = `No column says whose the marks are: a candidate number, an id, a mail address or a name. The heading reads: ${names.slice(0, 6).join(', ').slice(0, 120)}.`
    return { ...result, faults: [{ line: headingLine, column: null, candidate: '', assessment: '', reason }] }
  }
  const candidateAt = who.column
  const by = who.by === 'candidate' ? {} : { by: who.by }
  for (const { cells: record, line } of rows) {
    const candidate = (record[candidateAt] ?? '').trim()
    const refuse = (column: string | null, reason: string) => result.faults.push({ line, column, candidate, assessment: '', reason })
    const wrong = rowFault(names, record)
    if (wrong !== null) {
      refuse(null, wrong)
      continue
    }
    if (candidate === '') {
      if (record.some((c) => c.trim() !== ''))
        refuse(names[candidateAt]!, who.by === 'candidate' ? 'The candidate number is missing.' : `The ${who.by} is missing.`)
      continue
    }
    if (candidate.includes('\uFFFD')) {
      refuse(names[candidateAt]!, 'Some letters cannot be read: save the file as CSV in UTF-8.')
      continue
    }
    const when = new Date((record[asOfAt] ?? '').trim())
    const asOf = Number.isNaN(when.getTime()) ? {} : { asOf: when.toISOString() }
    const place = (column: string, assessment: string, value: string, remark = '') => {
      // An empty cell says nothing.
      if (value.trim() === '' && remark === '') return
      if (result.marks.length >= MOST_MARKS)
        throw new FileError(`The file holds more than ${MOST_MARKS} marks. Bring it in section by section.`)
      result.marks.push({ line, column, candidate, ...by, assessment, text: value, ...(remark === '' ? {} : { remark }), ...asOf })
    }
    if (long) {
      const cell = (name: string) => (record[lower.indexOf(name)] ?? '').trim()
      const [mark, status, days] = [cell('mark'), cell('status'), cell('days late')]
      const parts =
        status.toLowerCase() === 'late' ? [mark, 'late', days] : status === '' || status.toLowerCase() === 'in' ? [mark] : [status]
      place('mark', cell('assessment'), parts.filter(Boolean).join(' '), cell('remark').slice(0, MOST_REMARK))
    } else for (const { column, assessment } of marks) place(names[column] || `column ${column + 1}`, assessment, record[column] ?? '')
  }
  return result
}
