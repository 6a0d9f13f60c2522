import { isPlainName } from '../roll/plain-name'
import { withoutGuard } from './guard'
import type { Day } from '../roll/days'
import { rowFault, type FileTable } from './delimited'
import { readWeekdays } from './weekdays'

/** What a column of a roll can be. */
export const ROLL_FIELDS = [
  'candidate',
  'name',
  'given name',
  'family name',
  'section',
  'section name',
  'teacher',
  'meets',
  'starts',
  'external id',
  'from',
  'to',
] as const
export type RollField = (typeof ROLL_FIELDS)[number]
/** Which column holds what, by its place; a field not held is not there. */
export type RollColumns = Partial<Record<RollField, number>>

export interface FileSection {
  code: string
  name: string | null
  teacher: string | null
  /** 1..7 from Monday; null where the file does not say. */
  weekdays: number[] | null
  firstDay: Day | null
}

/** One student of a file. */
export interface RollEntry {
  line: number
  candidate: string
  name: string
  externalId: string
  /** Sections by their code, in order; `from` is empty where the file says only where the student is. */
  stays: { section: string; from: Day | ''; to: Day | '' }[]
}

export interface RollFault {
  line: number
  column: string | null
  candidate: string
  name: string
  reason: string
}

export interface RollFile {
  header: string[]
  columns: RollColumns
  sections: FileSection[]
  entries: RollEntry[]
  faults: RollFault[]
}

const KNOWN: Record<RollField, string[]> = {
  candidate: ['candidate', 'candidate number', 'candidate no', 'number', 'student number', 'exam number'],
  name: ['name', 'student', 'student name', 'full name'],
  'given name': ['given name', 'given names', 'first name', 'forename', 'givenname'],
  'family name': ['family name', 'last name', 'surname', 'familyname'],
  section: ['section', 'section code', 'class', 'group', 'class section'],
  'section name': ['section name', 'class name', 'group name'],
  teacher: ['teacher', 'taught by', 'instructor'],
  meets: ['meets', 'weekdays', 'meeting days', 'days'],
  starts: ['starts', 'first day', 'section starts'],
  'external id': ['external id', 'id', 'student id', 'sourcedid', 'record id'],
  from: ['from', 'since', 'enrolled from', 'begin date'],
  to: ['to', 'until', 'enrolled to', 'end date'],
}

/** Which columns a heading names, by the words people use for them. */
export function recogniseColumns(header: readonly string[]): RollColumns {
  const plain = header.map((h) =>
    h
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, ' ')
      .trim(),
  )
  const columns: RollColumns = {}
  for (const field of ROLL_FIELDS) {
    const at = KNOWN[field].map((k) => plain.indexOf(k)).find((i) => i >= 0)
    if (at !== undefined) columns[field] = at
  }
  return columns
}

const isDay = (text: string) =>
  /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text)) && new Date(text).toISOString().startsWith(text)
/** Text that a spreadsheet would run, or that holds letters nobody can see; what is guarded says that it is text. */
const looksWrong = (text: string): boolean => /^[=+@]|^-\D/.test(text) || !isPlainName(text)

/**
 * Reads a roll from a table. Rows of one student stand together as their times in sections. Faults name line and
 * column; whether students and sections exist is for `rollChanges` to say.
 * @param columns which column holds what, where it was matched by hand
 */
export function readRollTable(table: FileTable, columns: RollColumns = recogniseColumns(table.header)): RollFile {
  const { header } = table
  const file: RollFile = { header, columns, sections: [], entries: [], faults: [] }
  const whole = columns.name !== undefined || columns['given name'] !== undefined || columns['family name'] !== undefined
  const missing = [
    columns.candidate === undefined && columns['external id'] === undefined ? 'a candidate number or an external id' : '',
    whole ? '' : 'a name',
    columns.section === undefined ? 'a section' : '',
  ].filter(Boolean)
  if (missing.length > 0) {
    file.faults.push({
      line: 1,
      column: null,
      candidate: '',
      name: '',
      reason: `No column was recognised as ${missing.join(', nor as ')}. Say below which column holds it.`,
    })
    return file
  }
  const sections = new Map<string, FileSection>()
  const entries = new Map<string, RollEntry>()
  for (const { line, cells } of table.rows) {
    const cell = (field: RollField) => (columns[field] === undefined ? '' : (cells[columns[field]] ?? '').trim())
    const candidate = cell('candidate')
    const externalId = cell('external id')
    const name = (columns.name === undefined ? `${cell('given name')} ${cell('family name')}` : cell('name')).trim().replace(/\s+/g, ' ')
    const refuse = (field: RollField | null, reason: string) =>
      file.faults.push({
        line,
        column: field === null || columns[field] === undefined ? null : header[columns[field]]!,
        candidate: candidate.slice(0, 40),
        name: name.slice(0, 80),
        reason,
      })
    const wrong = rowFault(header, cells)
    if (wrong !== null) {
      refuse(null, wrong)
      continue
    }
    if (cells.every((c) => c.trim() === '')) continue
    const suspect = ROLL_FIELDS.find((f) => looksWrong(cell(f)))
    if (suspect) refuse(suspect, `“${cell(suspect).slice(0, 40)}” looks like a formula or holds hidden characters: type it as plain text.`)
    else if (candidate === '' && externalId === '') refuse('candidate', 'The candidate number is missing.')
    else if (candidate.length > 40 || externalId.length > 80) refuse('candidate', 'A number or id is longer than 40 characters.')
    else if (name === '') refuse('name', 'The name is missing.')
    else if (name.length > 200) refuse('name', 'The name is longer than 200 characters.')
    else if (cell('section') === '') refuse('section', 'The section is missing.')
    else if (cell('section').length > 40) refuse('section', 'The section’s code is longer than 40 characters.')
    else {
      const [from, to] = [cell('from'), cell('to')]
      const meets = cell('meets') === '' ? null : readWeekdays(cell('meets'))
      if (from !== '' && !isDay(from)) refuse('from', `“${from.slice(0, 20)}” is not a day: write it as 2026-09-07.`)
      else if (to !== '' && !isDay(to)) refuse('to', `“${to.slice(0, 20)}” is not a day: write it as 2026-09-07.`)
      else if (cell('meets') !== '' && meets === null)
        refuse('meets', `“${cell('meets').slice(0, 40)}” are no weekdays: write them as Mon Thu.`)
      else if (cell('starts') !== '' && !isDay(cell('starts')))
        refuse('starts', `“${cell('starts').slice(0, 20)}” is not a day: write it as 2026-09-07.`)
      else {
        const code = withoutGuard(cell('section'))
        if (!sections.has(code.toLowerCase()))
          sections.set(code.toLowerCase(), {
            code,
            name: withoutGuard(cell('section name')) || null,
            teacher: withoutGuard(cell('teacher')) || null,
            weekdays: meets,
            firstDay: cell('starts') || null,
          })
        const key = (candidate || `id ${externalId}`).toLowerCase()
        const stay = { section: code, from, to }
        const before = entries.get(key)
        if (!before) entries.set(key, { line, candidate, name: withoutGuard(name), externalId: withoutGuard(externalId), stays: [stay] })
        else if (before.stays.every((s) => s.to !== '') || to !== '') before.stays.push(stay)
        else refuse('candidate', `${candidate || externalId} stands in line ${before.line} already: keep one of them.`)
      }
    }
  }
  file.sections = [...sections.values()]
  file.entries = [...entries.values()].map((e) => ({ ...e, stays: [...e.stays].sort((a, b) => (a.from < b.from ? -1 : 1)) }))
  return file
}
