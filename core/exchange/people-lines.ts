import { isMailAddress, isSignIn } from '../roll/sign-in'
import { namePart, wholeName } from '../roll/name-parts'
import { isPlainName } from '../roll/plain-name'
import { cellsOfLine } from './line-cells'
import { SAYS_SEPARATOR } from './separator'

/** A person as a list names them. */
export interface ListedPerson {
  name: string
  /** How they sign in; their mail address where nothing else is given. */
  signIn: string
  email: string | null
  /** Their id in the system that the list comes from. */
  externalId: string | null
}

/** One line of the list: whom it names, or why it names nobody. Lines are counted from 1. */
export type PersonLine = { line: number } & ({ person: ListedPerson } | { why: string })

export const MOST_PEOPLE = 5000

type Column = 'name' | 'title' | 'given' | 'family' | 'signIn' | 'email' | 'externalId' | 'enabled' | 'role'
/** Headings that people give these columns, and those of a roster’s users (OneRoster 1.2). */
const HEADINGS: Record<Column, readonly string[]> = {
  name: ['name', 'fullname', 'displayname'],
  title: ['title', 'titel', 'salutation', 'academictitle'],
  given: ['givenname', 'givennames', 'firstname', 'forename', 'preferredfirstname', 'vorname'],
  family: ['familyname', 'lastname', 'surname', 'nachname', 'familienname'],
  signIn: ['signin', 'username', 'login', 'user'],
  email: ['email', 'mail', 'emailaddress', 'mailaddress'],
  externalId: ['sourcedid', 'id', 'externalid', 'staffnumber'],
  enabled: ['enableduser'],
  role: ['role'],
}

/**
 * Reads people from pasted lines (“Name, sign-in, mail address”, “Name <mail address>”), a table with a heading, or the users of
 * a roster. Delimiters are commas, semicolons and tabs.
 */
export function readPeople(text: string): PersonLine[] {
  const lines = text.replace(/^\uFEFF/, '').split(/\r?\n/)
  const separator = SAYS_SEPARATOR.exec(`${lines[0]}\n`)?.[1]
  const headingAt = separator ? 1 : 0
  const at = columnsOf(cellsOfLine(lines[headingAt] ?? '', separator))
  const found: PersonLine[] = []
  for (const [i, line] of lines.entries()) {
    if (line.trim() === '' || i < headingAt || (at && i === headingAt)) continue
    if (found.length === MOST_PEOPLE) {
      found.push({ line: i + 1, why: `At most ${MOST_PEOPLE} people come in at once: bring in the rest after these.` })
      break
    }
    const cells = cellsOfLine(line, separator)
    const read = cells === null ? 'A quotation mark is not closed.' : at ? fromColumns(cells, at) : fromParts(cells)
    found.push({ line: i + 1, ...(typeof read === 'string' ? { why: read } : checked(read)) })
  }
  return found
}

/** Where each column stands; null where the line is no heading. */
function columnsOf(header: string[] | null): Map<Column, number> | null {
  if (!header) return null
  const plain = header.map((h) => h.toLowerCase().replace(/[^a-z]/g, ''))
  const at = new Map<Column, number>()
  for (const [column, names] of Object.entries(HEADINGS) as [Column, readonly string[]][]) {
    const found = plain.findIndex((h) => names.includes(h))
    if (found >= 0) at.set(column, found)
  }
  const named = at.has('name') || at.has('family') || at.has('given')
  return named && (at.has('signIn') || at.has('email')) ? at : null
}

function fromColumns(cells: string[], at: Map<Column, number>): ListedPerson | string {
  const cell = (column: Column) => cells[at.get(column) ?? -1] ?? ''
  if (/^(false|no|0)$/i.test(cell('enabled'))) return 'Not an active user where the list comes from.'
  if (/^student$/i.test(cell('role'))) return 'A student: students come in by the roll of their course.'
  const email = cell('email')
  return {
    name: [
      cell('title'),
      inSpokenOrder(cell('name')) || wholeName({ given: namePart(cell('given')), middle: '', family: namePart(cell('family')) }),
    ]
      .filter((part) => part !== '')
      .join(' '),
    signIn: cell('signIn') || email,
    email: email || null,
    externalId: cell('externalId') || null,
  }
}

/** A line without a heading: the name comes first, and what holds an @ is the mail address. */
function fromParts(cells: string[]): ListedPerson | string {
  const parts = cells.flatMap((c) => {
    const both = /^(.*?)\s*<([^<>]+)>$/.exec(c)
    return both ? [both[1]!, both[2]!] : [c]
  })
  const [name = '', ...rest] = nameFirst(parts.filter((p) => p !== ''))
  if (rest.length === 0) return 'Only one thing stands here: give a name, and a sign-in or a mail address, with a comma between.'
  if (rest.length > 2) return 'More stands here than name, sign-in and mail address.'
  const email = rest.find((p) => p.includes('@')) ?? null
  return { name, signIn: rest.find((p) => p !== email) ?? email!, email, externalId: null }
}

const TITLE = /^(?:(?:prof|dr|mr|mrs|ms|mx)\.?\s*)+$/i
/** A name alone, which no sign-in looks like: it begins with a capital letter, and no digit, dot or @ is in it. */
const GIVEN_NAME = /^\p{Lu}[\p{L}\p{M}' -]*$/u

/** *Torvik, Ana* as *Ana Torvik*; any other name as it is, its spaces made single. */
const inSpokenOrder = (name: string): string => {
  const [family = '', given] = name.split(',').map((part) => part.trim().replace(/\s+/g, ' '))
  return given ? `${given} ${family}` : family
}

/** The parts of a line with the whole name first: a title before it or beside it belongs to it, as does a given name after the family name. */
function nameFirst(parts: readonly string[]): string[] {
  const titles = parts.filter((p) => TITLE.test(p)).slice(0, 1)
  const [first = '', second, ...rest] = parts.filter((p) => !TITLE.test(p))
  const isGiven = second !== undefined && rest.length > 0 && !/\s/.test(first) && GIVEN_NAME.test(second)
  const name = inSpokenOrder(isGiven ? `${first}, ${second}` : first)
  return [[...titles, name].filter((p) => p !== '').join(' '), ...(isGiven || second === undefined ? [] : [second]), ...rest]
}

function checked(p: ListedPerson): { person: ListedPerson } | { why: string } {
  if (p.name === '') return { why: 'The name is missing.' }
  if (p.name.length > 200 || !isPlainName(p.name)) return { why: 'The name is too long or holds hidden characters.' }
  if (p.email !== null && !isMailAddress(p.email)) return { why: `“${p.email.slice(0, 60)}” is no mail address.` }
  if (p.signIn === '') return { why: 'Neither a sign-in nor a mail address is given.' }
  if (!isSignIn(p.signIn)) return { why: `“${p.signIn.slice(0, 60)}” cannot be a sign-in: letters, digits and signs, without blanks.` }
  return { person: p }
}
