import { FileError, readDelimited, rowFault, type FileTable } from './delimited'

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
  let table: FileTable
  try {
    table = readDelimited(text)
  } catch (e) {
    if (e instanceof FileError) return fault(e.message, e.line, e.column)
    throw e
  }
  const { header: names, rows } = table
  const lower = names.map((n) => n.toLowerCase())
  const candidateAt = lower.findIndex((n) => CANDIDATE.includes(n))
  if (candidateAt < 0) return fault(`No column is headed “candidate”. The first line reads: ${names.slice(0, 6).join(', ').slice(0, 120)}.`)

  const long = lower.includes('assessment')
  const result: MarksFile = { marks: [], faults: [] }
  for (const { cells: record, line } of rows) {
    const candidate = (record[candidateAt] ?? '').trim()
    const refuse = (column: string | null, reason: string) => result.faults.push({ line, column, candidate, assessment: '', reason })
    const wrong = rowFault(names, record)
    if (wrong !== null) {
      refuse(null, wrong)
      continue
    }
    if (candidate === '') {
      if (record.some((c) => c.trim() !== '')) refuse(names[candidateAt]!, 'The candidate number is missing.')
      continue
    }
    const place = (column: string, assessment: string, value: string) =>
      result.marks.push({ line, column, candidate, assessment, text: value })
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
