import { spreadOf, type AgreeRule } from '#core/agree'
import { readingPlaces, readingQueue, readingsOf, saysTheSame, SOURCES, type HandedInReading, type Workings } from '#core/trial'
import type { CourseState, Outcome } from '../../course/state'

export interface QueueRow {
  scriptId: string
  studentId: string
  assessmentId: string
  readings: HandedInReading[]
  /** Between its readings, and the mark that was typed where they do not bear it out. */
  spread: number
  /** Further apart than its assessment tolerates, or typed otherwise: a person settles it. */
  over: boolean
  /** The mark typed in the sheet that the readings do not bear out; null where there is none. */
  typed: number | null
  /** The agreed mark, as decided or as it is being tried; null while it is open. */
  agreed: number | null
  /** It was settled by its assessment’s standing rule. */
  ruled: boolean
  /** The agreed mark, or that it is open again, is being tried and not adopted. */
  trying: boolean
  /** It was settled, and is open again: by a reading since, or by a decision. */
  reopened: boolean
  /** Grades that the lowest and the highest reading would lead to, as it is rescaled; null where it is settled within tolerance. */
  stake: [string | null, string | null] | null
  /** Percents between what its readings give in the middle and the nearest boundary; null where nobody can tell. */
  near: number | null
}

/** Orders of the queue, in words; those that are open always come before the settled. */
export const QUEUE_ORDERS = {
  matters: 'what matters most',
  spread: 'widest spread',
  stake: 'a grade at stake',
  near: 'nearest a boundary',
} as const
export type QueueOrder = keyof typeof QUEUE_ORDERS

/** What waits to be settled, and what was. */
export interface ReadingQueue {
  /** Assessments with something to settle or settled, in the order of the plan. */
  toSettle: string[]
  /** What is shown; null for all. */
  assessmentId: string | null
  /** Scripts to settle as it is decided, the same figure as at the stop; those over tolerance and those within it. */
  open: number
  openOver: number
  rows: QueueRow[]
}

/** By a person or by its assessment's standing rule. */
const isSettled = (source: number): boolean => SOURCES[source] === 'agreed' || SOURCES[source] === 'ruled'

/** Cells that wait to be settled, and those that were. */
function cellsOf(
  w: Workings,
  { standing }: Outcome,
  tolerances: Record<string, number>,
): { open: Set<number>; over: Set<number>; all: Set<number> } {
  const { clash, overTolerance, within } = readingQueue(w, tolerances, standing)
  const { from } = readingPlaces(w)
  const all = new Set([...clash, ...overTolerance, ...within])
  const open = new Set(all)
  standing.source.forEach((source, cell) => {
    if (isSettled(source) && from[cell + 1]! > from[cell]!) all.add(cell)
  })
  return { open, over: new Set([...clash, ...overTolerance]), all }
}

/** The queue of one assessment, or of all of them; what is decided and what a trial makes of it. */
export function readingQueueOf(state: CourseState, wanted: string | null, order: QueueOrder = 'matters'): ReadingQueue {
  const { table, workings, adopted, tried, current } = state
  const tolerances = Object.fromEntries(table.assessments.map((a) => [a.id, a.tolerance]))
  const decided = cellsOf(workings, adopted, tolerances)
  const now = tried === workings ? decided : cellsOf(tried, current, tolerances)
  const { width } = workings.cells
  const cells = [...Int32Array.from(new Set([...decided.all, ...now.all])).sort()]
  const found = new Set(cells.map((cell) => cell % width))
  const toSettle = table.assessments.flatMap((a, i) => (found.has(i) ? a.id : []))
  const assessmentId = toSettle.find((id) => id === wanted) ?? null
  const at = assessmentId === null ? -1 : tried.cells.assessment(assessmentId)
  const shown = at < 0 ? cells : cells.filter((cell) => cell % width === at)
  const rows = shown.map((cell) => rowOf(state, cell, decided, now))
  workOutStakes(state, rows)
  const inShown = (set: ReadonlySet<number>) => (at < 0 ? set.size : [...set].filter((cell) => cell % width === at).length)
  return {
    toSettle,
    assessmentId,
    open: inShown(decided.open),
    openOver: inShown(new Set([...decided.open].filter((cell) => decided.over.has(cell)))),
    rows: rows.sort((a, b) => Number(wasOpen(b)) - Number(wasOpen(a)) || BY[order](a, b) || (a.scriptId < b.scriptId ? -1 : 1)),
  }
}

/** Open as it is decided: a row keeps its place while a trial settles it. */
const wasOpen = (r: QueueRow): boolean => r.trying || r.agreed === null

const atStake = ({ stake }: QueueRow): number => Number(stake !== null && stake[0] !== stake[1])
const nearness = ({ near }: QueueRow): number => near ?? Infinity
const byNear = (a: QueueRow, b: QueueRow): number => (nearness(a) === nearness(b) ? 0 : nearness(a) - nearness(b))
const BY: Record<QueueOrder, (a: QueueRow, b: QueueRow) => number> = {
  matters: (a, b) => Number(b.over) - Number(a.over) || atStake(b) - atStake(a) || b.spread - a.spread,
  spread: (a, b) => b.spread - a.spread,
  stake: (a, b) => atStake(b) - atStake(a) || byNear(a, b),
  near: byNear,
}

type Found = ReturnType<typeof cellsOf>

function rowOf({ workings: was, tried: w, current, adopted, table }: CourseState, cell: number, decided: Found, now: Found): QueueRow {
  const readings = readingsOf(w, cell)
  const entered = w.scripts.entered[cell]!
  const typed = readings.some((r) => !Number.isNaN(entered) && !saysTheSame(r.mark, entered)) ? entered : null
  const settled = isSettled(current.standing.source[cell]!)
  const before = isSettled(adopted.standing.source[cell]!)
  const agreed = settled ? current.standing.plain[cell]! : null
  const assessment = table.assessments[cell % w.cells.width]!
  const spread = spreadOf(typed === null ? readings : [...readings, { markerId: '', mark: typed }]) ?? 0
  return {
    scriptId: w.cells.scriptId(cell),
    studentId: w.cells.studentId(cell),
    assessmentId: assessment.id,
    readings,
    spread,
    over: now.over.has(cell) || decided.over.has(cell) || typed !== null || spread > assessment.tolerance + 1e-9,
    typed,
    agreed,
    ruled: SOURCES[current.standing.source[cell]!] === 'ruled',
    trying: settled !== before || (settled && current.standing.plain[cell] !== adopted.standing.plain[cell]),
    reopened: was.reopened.has(cell) || w.reopened.has(cell),
    stake: null,
    near: null,
  }
}

/** Grades of the lowest and the highest reading, and how near a boundary the middle lies, of all that is open or far apart: reckoned together. */
function workOutStakes({ tried, current }: CourseState, rows: QueueRow[]): void {
  const limits = current.graded.boundaries.map((b) => b.from).filter((from) => from > 0)
  const wanted = rows.filter((row) => wasOpen(row) || row.over)
  const asked = wanted.flatMap((row) => {
    const cell = tried.cells.ofScript(row.scriptId)
    const marks = [...row.readings.map((r) => r.mark), ...(row.typed === null ? [] : [row.typed])]
    const middle = marks.reduce((s, m) => s + m, 0) / marks.length
    return [Math.min(...marks), Math.max(...marks), middle].map((plain) => ({ cell, plain }))
  })
  const would = current.gradesIf(asked)
  wanted.forEach((row, i) => {
    const [lowest, highest, middle] = would.slice(3 * i, 3 * i + 3)
    row.stake = [lowest!.grade, highest!.grade]
    const { percent } = middle!
    if (percent !== null && limits.length > 0) row.near = Math.min(...limits.map((from) => Math.abs(percent - from)))
  })
}

/** Keeps the mark that was typed, as a mark of the lead's own. */
export const keepTyped = (mark: number): AgreeRule => ({ kind: 'value', mark, reason: 'The mark typed in the sheet stands' })
