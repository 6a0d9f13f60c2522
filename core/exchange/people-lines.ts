import { isMailAddress, isSignIn } from '../roll/sign-in'
import { isPlainName } from '../roll/plain-name'
import { cellsOfLine } from './line-cells'

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

type Column = 'name' | 'given' | 'family' | 'signIn' | 'email' | 'externalId' | 'enabled' | 'role'
/** Headings that people give these columns, and those of a roster’s users (OneRoster 1.2). */
const HEADINGS: Record<Column, readonly string[]> = {
  name: ['name', 'fullname', 'displayname'],
  given: ['givenname', 'firstname', 'preferredfirstname'],
  family: ['familyname', 'lastname', 'surname'],
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
  const first = cellsOfLine(lines[0] ?? '')
  const at = columnsOf(first)
  const found: PersonLine[] = []
  for (const [i, line] of lines.entries()) {
    if (line.trim() === '' || (at && i === 0)) continue
    if (found.length === MOST_PEOPLE) {
      found.push({ line: i + 1, why: `At most ${MOST_PEOPLE} people come in at once: bring in the rest after these.` })
      break
    }
    const cells = cellsOfLine(line)
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
    name: cell('name') || [cell('given'), cell('family')].filter((part) => part !== '').join(' '),
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
  const [name = '', ...rest] = parts.filter((p) => p !== '')
  if (rest.length === 0) return 'Only one thing stands here: give a name, and a sign-in or a mail address, with a comma between.'
  if (rest.length > 2) return 'More stands here than name, sign-in and mail address.'
  const email = rest.find((p) => p.includes('@')) ?? null
  return { name, signIn: rest.find((p) => p !== email) ?? email!, email, externalId: null }
}

function checked(p: ListedPerson): { person: ListedPerson } | { why: string } {
  if (p.name === '') return { why: 'The name is missing.' }
  if (p.name.length > 200 || !isPlainName(p.name)) return { why: 'The name is too long or holds hidden characters.' }
  if (p.email !== null && !isMailAddress(p.email)) return { why: `“${p.email.slice(0, 60)}” is no mail address.` }
  if (p.signIn === '') return { why: 'Neither a sign-in nor a mail address is given.' }
  if (!isSignIn(p.signIn)) return { why: `“${p.signIn.slice(0, 60)}” cannot be a sign-in: letters, digits and signs, without blanks.` }
  return { person: p }
}
