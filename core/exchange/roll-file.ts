import { dayReader } from './file-days'
import { columnsNow } from './heading-match'
import type { Encoding } from '../roll/encodings'
import { isPlainName } from '../roll/plain-name'
import { isSignIn } from '../roll/sign-in'
import { withoutGuard } from './guard'
import type { Day } from '../roll/days'
import type { NameParts } from '../roll/name-parts'
import { rowFault, type FileTable, type FindHeading } from './delimited'
import type { SheetOfFile } from './sheets-of-file'
import { readWeekdays } from './weekdays'
import { ROLL_FIELDS, type RollField } from '../roll/roll-fields'

/** Which column holds what, by its place; a field not held is not there. */
export type RollColumns = Partial<Record<RollField, number>>

export interface FileSection {
  code: string
  name: string | null
  teacher: string | null
  /** 1..7 from Monday; null where the file does not say. */
  weekdays: number[] | null
  firstDay: Day | null
  /** By which a roster knows the class, and who teaches it. */
  sourceId?: string
  teacherSourceId?: string | null
}

/** One student of a file. */
export interface RollEntry {
  line: number
  candidate: string
  name: string
  externalId: string
  /** By which they come in: a sign-in or a mail address. */
  signIn: string
  /** The name in its parts, where the file has it so. */
  parts: NameParts | null
  /** In a file of changes: sections, by their code, that the student is no longer in, or all of them. */
  leaves?: readonly string[] | 'all'
  /** Sections by their code, in order; `from` is empty where the file says only where the student is. None in a file of changes that says nothing of it. */
  stays: { section: string; from: Day | ''; to: Day | '' }[]
}

export interface RollFault {
  line: number
  column: string | null
  candidate: string
  name: string
  reason: string
}

/** A class of a roster, and whether it is read. */
export interface FileClass {
  sourceId: string
  code: string
  title: string
  /** Code and title of the course that it is of. */
  course: string
  students: number
  chosen: boolean
}

export interface RollFile {
  /** What a roster holds beside students and sections; null for any other file. */
  roster: {
    /** It says what changed, and not all. */
    delta: boolean
    classes: FileClass[]
    /** Enrolments in classes that are not read. */
    left: number
  } | null
  header: string[]
  /** The line that the heading stands in. */
  headingLine: number
  /** By which its letters were read where it is no Unicode. */
  encoding: Encoding | null
  /** Of a workbook; none of any other file. */
  sheets: SheetOfFile[]
  columns: RollColumns
  sections: FileSection[]
  entries: RollEntry[]
  faults: RollFault[]
}

const KNOWN: Record<RollField, string[]> = {
  candidate: [
    'candidate',
    'candidate number',
    'candidate no',
    'number',
    'student number',
    'student no',
    'exam number',
    'matric no',
    'matric number',
    'matriculation no',
    'matriculation number',
    'registration no',
    'registration number',
    'reg no',
    'roll no',
    'roll number',
    'kandidat',
    'kandidatennummer',
    'matrikelnummer',
    'matrikel nr',
    'matrikelnr',
  ],
  name: ['name', 'student', 'student name', 'full name'],
  'given name': ['given name', 'given names', 'first name', 'forename', 'givenname', 'vorname', 'prénom', 'fornavn'],
  'family name': ['family name', 'last name', 'surname', 'familyname', 'nachname', 'familienname', 'efternamn', 'etternavn'],
  section: ['section', 'section code', 'class', 'group', 'class section', 'gruppe', 'klasse', 'groupe'],
  'section name': ['section name', 'class name', 'group name'],
  teacher: ['teacher', 'taught by', 'instructor'],
  meets: ['meets', 'weekdays', 'meeting days', 'days'],
  starts: ['starts', 'first day', 'section starts'],
  'external id': ['external id', 'id', 'student id', 'sourcedid', 'record id'],
  'sign-in': [
    'sign in',
    'signin',
    'username',
    'user name',
    'login',
    'e mail',
    'email',
    'mail',
    'email address',
    'mail address',
    'e mail address',
  ],
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

/** What a roll cannot do without and has no column for, in words. */
function missingColumns(columns: RollColumns): string[] {
  const named = columns.name !== undefined || columns['given name'] !== undefined || columns['family name'] !== undefined
  return [
    columns.candidate === undefined && columns['external id'] === undefined ? 'a candidate number or an external id' : '',
    named ? '' : 'a name',
    columns.section === undefined ? 'a section' : '',
  ].filter(Boolean)
}

/** Columns that were matched by hand before, for every file that has them. */
export interface KnownMatch {
  header: string[]
  columns: RollColumns
}
/** What is known here that a roster may mean. */
export interface RosterMatch {
  /** Ids of the classes that are meant; where nobody has said, they are told. */
  chosen?: readonly string[] | undefined
  here: {
    /** `lastDay` is that of its term; empty where it is not known. */
    course: { code: string; title: string; lastDay?: Day | '' }
    classes: readonly { sourceId: string; code: string }[]
    students: readonly { candidate: string; name: string; externalId: string | null }[]
  }
}
/** How a file is to be read: as somebody said, or as was said of one like it before. */
export interface RollMatch {
  columns?: RollColumns | undefined
  /** The line that its heading stands in. */
  headingLine?: number | undefined
  encoding?: Encoding | undefined
  /** Sheets of a workbook that are meant, by name. */
  sheets?: readonly string[] | undefined
  known?: readonly KnownMatch[]
  roster?: RosterMatch | undefined
}

/**
 * Which row of a roll is its heading: the one that was said; else the first that was matched before or that names all that a roll
 * needs; else the one of which most is recognised.
 */
export const rollHeading =
  ({ headingLine, known = [] }: RollMatch): FindHeading =>
  (rows) => {
    if (headingLine !== undefined)
      return Math.max(
        0,
        rows.findIndex((r) => r.line >= headingLine),
      )
    const plain = rows.findIndex(
      ({ cells }) => matchedBefore(cells, known) !== null || missingColumns(recogniseColumns(cells)).length === 0,
    )
    if (plain >= 0) return plain
    const told = rows.map(({ cells }) => Object.keys(recogniseColumns(cells)).length)
    return told.indexOf(Math.max(...told))
  }

/** The columns of a heading: as they were matched before, else by the words people use for them. */
export const columnsOf = (header: readonly string[], known: readonly KnownMatch[] = []): RollColumns =>
  matchedBefore(header, known) ?? recogniseColumns(header)

function matchedBefore(header: readonly string[], known: readonly KnownMatch[]): RollColumns | null {
  for (const { header: then, columns } of known) {
    const now = columnsNow(then, Object.values(columns), header)
    if (now) return Object.fromEntries(Object.entries(columns).map(([field, column]) => [field, now(column)]))
  }
  return null
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
  const file: RollFile = {
    header,
    headingLine: table.headingLine ?? 1,
    encoding: null,
    sheets: [],
    columns,
    roster: null,
    sections: [],
    entries: [],
    faults: [],
  }
  const missing = missingColumns(columns)
  if (missing.length > 0) {
    file.faults.push({
      line: file.headingLine,
      column: null,
      candidate: '',
      name: '',
      reason: `No column was recognised as ${missing.join(', nor as ')}. Say below which column holds it.`,
    })
    return file
  }
  const sections = new Map<string, FileSection>()
  const entries = new Map<string, RollEntry>()
  const days = [columns.from, columns.to, columns.starts].filter((c) => c !== undefined)
  const dayIn = dayReader(table.rows.flatMap(({ cells }) => days.map((c) => cells[c]?.trim() ?? '')))
  for (const { line, cells } of table.rows) {
    const cell = (field: RollField) => (columns[field] === undefined ? '' : (cells[columns[field]] ?? '').trim())
    const candidate = withoutGuard(cell('candidate'))
    const externalId = withoutGuard(cell('external id'))
    const signIn = withoutGuard(cell('sign-in'))
    const name = (columns.name === undefined ? `${cell('given name')} ${cell('family name')}` : cell('name')).trim().replace(/\s+/g, ' ')
    const parts = columns.name === undefined ? { given: cell('given name'), middle: '', family: cell('family name') } : null
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
    else if (signIn !== '' && !isSignIn(signIn))
      refuse('sign-in', `“${signIn.slice(0, 40)}” is no sign-in: letters, digits and signs, without blanks; a mail address will do.`)
    else if (name === '') refuse('name', 'The name is missing.')
    else if (name.length > 200) refuse('name', 'The name is longer than 200 characters.')
    else if (cell('section') === '') refuse('section', 'The section is missing.')
    else if (cell('section').length > 40) refuse('section', 'The section’s code is longer than 40 characters.')
    else {
      const [from, to, starts] = [dayIn(cell('from')), dayIn(cell('to')), dayIn(cell('starts'))]
      const meets = cell('meets') === '' ? null : readWeekdays(cell('meets'))
      if (from !== '' && !isDay(from))
        refuse('from', `“${cell('from').slice(0, 20)}” is not a day: write it as 2026-09-07, 7.9.2026 or 7/9/2026.`)
      else if (to !== '' && !isDay(to))
        refuse('to', `“${cell('to').slice(0, 20)}” is not a day: write it as 2026-09-07, 7.9.2026 or 7/9/2026.`)
      else if (cell('meets') !== '' && meets === null)
        refuse('meets', `“${cell('meets').slice(0, 40)}” are no weekdays: write them as Mon Thu.`)
      else if (starts !== '' && !isDay(starts))
        refuse('starts', `“${cell('starts').slice(0, 20)}” is not a day: write it as 2026-09-07, 7.9.2026 or 7/9/2026.`)
      else {
        const code = withoutGuard(cell('section'))
        if (!sections.has(code.toLowerCase()))
          sections.set(code.toLowerCase(), {
            code,
            name: withoutGuard(cell('section name')) || null,
            teacher: withoutGuard(cell('teacher')) || null,
            weekdays: meets,
            firstDay: starts || null,
          })
        const key = (candidate || `id ${externalId}`).toLowerCase()
        const stay = { section: code, from, to }
        const before = entries.get(key)
        if (!before)
          entries.set(key, {
            line,
            candidate,
            name: withoutGuard(name),
            externalId,
            signIn,
            parts,
            stays: [stay],
          })
        else if (before.stays.every((s) => s.to !== '') || to !== '') before.stays.push(stay)
        else refuse('candidate', `${candidate || externalId} stands in line ${before.line} already: keep one of them.`)
      }
    }
  }
  file.sections = [...sections.values()]
  file.entries = [...entries.values()].map((e) => ({ ...e, stays: [...e.stays].sort((a, b) => (a.from < b.from ? -1 : 1)) }))
  return file
}
