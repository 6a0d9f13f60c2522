import { isPlainName } from '../roll/plain-name'
import { readDay } from '../roll/read-day'
import type { LayOut } from '../roll/lay-out'
import type { Term } from '../roll/days'
import { cellsOfLine } from './line-cells'

/** An assessment as a line of a plan names it. */
export interface PlanLine {
  title: string
  /** The component it lies in, by its title. */
  component: string
  outOf: number
  /** Points it carries inside its component; null: the same as it is marked out of. */
  worth: number | null
  due: LayOut | null
}
/** A component that is not there yet. */
export interface NewPart {
  title: string
  /** Percent; null where the lines do not say. */
  weight: number | null
}
export interface PlanLines {
  /** Each line that is not empty, counted from 1: what it adds, or why nothing. */
  lines: { line: number; text: string; adds: PlanLine | null; why: string | null }[]
  /** Components that the lines name and the plan does not have, in their order. */
  components: NewPart[]
}

export const MOST_PLAN_LINES = 300
const HEADING = /^(title|assessment|name)$/i
/** The most that a weight, a maximum or a worth can be. */
const MOST = 10_000
const threeDecimals = (x: number) => Math.abs(x * 1000 - Math.round(x * 1000)) < 1e-6

/**
 * Reads a plan from pasted lines: title, component (with its weight as in “Practicals 25%”), marked out of, worth, due. Worth and due may be
 * missing; a component that is missing is that of the line above. A heading line is passed over. Lines of one title are numbered: Quiz,
 * Quiz 2, Quiz 3.
 * @param there titles of the components and assessments that the plan has
 */
export function readPlanLines(
  text: string,
  there: { components: readonly string[]; assessments: readonly string[] },
  term: Term,
): PlanLines {
  const read: PlanLines = { lines: [], components: [] }
  const parts = new Map(there.components.map((t) => [t.toLowerCase(), t]))
  const taken = new Map(there.assessments.map((t) => [t.toLowerCase(), 'stands in the plan already']))
  let above: string | null = null
  for (const [i, raw] of text.split(/\r?\n/).entries()) {
    if (raw.trim() === '') continue
    const cells = cellsOfLine(raw)
    const refuse = (why: string) => read.lines.push({ line: i + 1, text: raw.trim().slice(0, 80), adds: null, why })
    if (cells === null) {
      refuse('A quotation mark is not closed.')
      continue
    }
    const [said = '', component = '', outOf = '', worth = '', due = ''] = cells
    const title = numbered(said, taken)
    if (read.lines.length === 0 && HEADING.test(said) && !isNumber(outOf)) continue
    if (read.lines.length === MOST_PLAN_LINES) {
      refuse(`At most ${MOST_PLAN_LINES} lines come in at once.`)
      break
    }
    const named = /^(.*?)\s*[(,]?\s*(\d+(?:[.,]\d+)?)\s*%\)?$/.exec(component)
    const part: string = (named ? named[1]! : component).trim() || (above ?? '')
    const weight = named ? numberOf(named[2]!) : null
    const max = numberOf(outOf)
    const points = worth === '' ? null : numberOf(worth)
    const day = due === '' ? null : readDay(due, term)
    const why =
      titleFault(title, taken) ??
      partFault(part, weight) ??
      (isBetween(max, 0) && max! > 0 ? null : `Marked out of “${outOf.slice(0, 20)}”: give a number above 0, with 3 decimals at most.`) ??
      (worth === '' || isBetween(points, 0)
        ? null
        : `Worth “${worth.slice(0, 20)}”: give a number from 0 to ${MOST}, or nothing where it is worth what it is marked out of.`) ??
      (typeof day === 'string' ? day : null)
    if (why !== null) {
      refuse(why)
      continue
    }
    const known = parts.get(part.toLowerCase())
    if (known === undefined) {
      parts.set(part.toLowerCase(), part)
      read.components.push({ title: part, weight })
    } else {
      const made = read.components.find((c) => c.title === known)
      if (made) made.weight ??= weight
    }
    const lies = known ?? part
    above = lies
    taken.set(title.toLowerCase(), FROM_LINES)
    read.lines.push({
      line: i + 1,
      text: raw.trim().slice(0, 80),
      adds: { title, component: lies, outOf: max!, worth: points, due: day as LayOut | null },
      why: null,
    })
  }
  return read
}

/** Of a title that another line has. */
const FROM_LINES = 'stands in another line'

/** A title that another line has already, with the next number that is free. */
function numbered(title: string, taken: ReadonlyMap<string, string>): string {
  if (taken.get(title.toLowerCase()) !== FROM_LINES) return title
  let n = 2
  while (taken.has(`${title} ${n}`.toLowerCase())) n++
  return `${title} ${n}`
}

const isBetween = (x: number | null, least: number): boolean => x !== null && x >= least && x <= MOST && threeDecimals(x)

function titleFault(title: string, taken: ReadonlyMap<string, string>): string | null {
  if (title === '') return 'The title is missing.'
  if (title.length > 200 || !isPlainName(title)) return 'The title is longer than 200 characters or holds hidden ones.'
  const there = taken.get(title.toLowerCase())
  return there === undefined ? null : `${title} ${there}.`
}

function partFault(part: string, weight: number | null): string | null {
  if (part === '') return 'The component is missing: write it after the title.'
  if (part.length > 200 || !isPlainName(part)) return 'The component’s title is longer than 200 characters or holds hidden ones.'
  return weight === null || isBetween(weight, 0) ? null : `“${weight}%” is no weight.`
}

const isNumber = (text: string) => numberOf(text) !== null
function numberOf(text: string): number | null {
  const plain = text.trim().replace(/^(\d+),(\d+)$/, '$1.$2')
  return /^\d+(\.\d+)?$/.test(plain) ? Number(plain) : null
}
