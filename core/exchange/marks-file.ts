import { parse } from 'csv-parse/sync'

/** One cell of a file of marks, with its place for messages. */
export interface FileMark {
  line: number
  column: string
  candidate: string
  assessment: string
  text: string
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
}

const CANDIDATE = ['candidate', 'candidate number', 'candidate no', 'candidate no.']
const IGNORED = ['name', 'student', 'section']
const MAX_ROWS = 50_000
const MAX_CELL = 2_000

/**
 * Reads a CSV file of marks (RFC 4180; comma, semicolon or tab; with or without BOM). Wide: a candidate
 * column and a column an assessment. Long: candidate, assessment and mark, with status and days late if wanted.
 * Faults name line and column; whether candidates and assessments exist is for the caller to say.
 */
export function readMarksFile(text: string): MarksFile {
  const fault = (reason: string, line = 1, column: string | null = null): MarksFile => ({
    marks: [],
    faults: [{ line, column, candidate: '', assessment: '', reason }],
  })
  if (text.includes('\u0000')) return fault('This is not a text file. Save the sheet as CSV (UTF-8) and bring that in.')
  if (text.includes('\uFFFD')) return fault('Some letters cannot be read: save the file as CSV in UTF-8.')
  const body = text.replace(/^\uFEFF/, '')
  const head = body.split(/\r?\n/, 1)[0] ?? ''
  if (body.trim() === '') return fault('The file is empty.')
  const delimiter = [',', ';', '\t'].map((d) => ({ d, n: head.split(d).length })).sort((a, b) => b.n - a.n)[0]!
  if (delimiter.n < 2)
    return fault(
      'The first line has no columns that can be told apart: separate them with commas, semicolons or tabs, and begin with “candidate”.',
    )

  let records: { record: string[]; info: { lines: number } }[]
  try {
    records = parse(body, {
      delimiter: delimiter.d,
      info: true,
      relax_column_count: true,
      skip_empty_lines: true,
      trim: true,
      to: MAX_ROWS + 2,
    }) as unknown as typeof records
  } catch (e) {
    const { lines, message } = e as { lines?: number; message: string }
    return fault(`The file breaks off or a quotation mark is not closed: ${message}`, lines ?? 1)
  }
  const [header, ...rows] = records
  if (!header || rows.length === 0) return fault('There is a heading line but no row beneath it.')
  if (rows.length > MAX_ROWS) return fault(`The file has more than ${MAX_ROWS} rows. Bring it in in parts.`)

  const names = header.record.map((n) => n.trim())
  const lower = names.map((n) => n.toLowerCase())
  const candidateAt = lower.findIndex((n) => CANDIDATE.includes(n))
  if (candidateAt < 0) return fault(`No column is headed “candidate”. The first line reads: ${names.slice(0, 6).join(', ').slice(0, 120)}.`)
  const doubled = lower.find((n, i) => n !== '' && lower.indexOf(n) !== i)
  if (doubled !== undefined) return fault(`Two columns are headed “${doubled}”: keep one.`, 1, doubled)

  const long = lower.includes('assessment')
  const result: MarksFile = { marks: [], faults: [] }
  for (const { record, info } of rows) {
    const candidate = (record[candidateAt] ?? '').trim()
    const refuse = (column: string | null, reason: string) =>
      result.faults.push({ line: info.lines, column, candidate, assessment: '', reason })
    if (record.length > names.length) {
      refuse(
        null,
        `This row has ${record.length} cells, the heading has ${names.length}: a cell with the separator in it needs quotation marks.`,
      )
      continue
    }
    if (record.some((c) => c.length > MAX_CELL)) {
      refuse(null, `A cell of this row is longer than ${MAX_CELL} characters.`)
      continue
    }
    if (candidate === '') {
      if (record.some((c) => c.trim() !== '')) refuse(names[candidateAt]!, 'The candidate number is missing.')
      continue
    }
    const place = (column: string, assessment: string, value: string) =>
      result.marks.push({ line: info.lines, column, candidate, assessment, text: value })
    if (long) {
      const cell = (name: string) => (record[lower.indexOf(name)] ?? '').trim()
      const [mark, status, days] = [cell('mark'), cell('status'), cell('days late')]
      const parts =
        status.toLowerCase() === 'late' ? [mark, 'late', days] : status === '' || status.toLowerCase() === 'in' ? [mark] : [status]
      place('mark', cell('assessment'), parts.filter(Boolean).join(' '))
    } else
      names.forEach((name, i) => {
        if (i !== candidateAt && name !== '' && !IGNORED.includes(lower[i]!)) place(name, name, record[i] ?? '')
      })
  }
  return result
}
