import { ascending } from 'd3-array'
import { apart, type AgreeRule } from '#core/agree'
import { orNull } from '#core/grades'
import { readingPlaces, readingQueue, saysTheSame, SOURCES, type Workings } from '#core/trial'
import { NO_GRADE, NO_STAKE, type QueueColumns } from './queue-columns'
import type { ReadingQueue } from './queue-rows'
import type { CourseState, Outcome } from '../../course/state'

/** Orders of the queue, in words; those that are open always come before the settled. */
export const QUEUE_ORDERS = {
  matters: 'what matters most',
  spread: 'widest spread',
  stake: 'a grade at stake',
  near: 'nearest a boundary',
} as const
export type QueueOrder = keyof typeof QUEUE_ORDERS

/** Whether a source is a person or an assessment's standing rule. */
const SETTLES = SOURCES.map((source) => source === 'agreed' || source === 'ruled')

/** What holds of a cell: it waits to be settled, and by a person; or its readings were settled. */
const WAITS = 1
const OVER = 2
const SETTLED = 4

function statesOf(w: Workings, { standing }: Outcome, tolerances: Record<string, number>): Uint8Array {
  const { clash, overTolerance, within } = readingQueue(w, tolerances, standing)
  const { from } = readingPlaces(w)
  const states = new Uint8Array(w.cells.count)
  for (let c = 0; c < states.length; c++) if (SETTLES[standing.source[c]!] && from[c + 1]! > from[c]!) states[c] = SETTLED
  for (const c of within) states[c] = WAITS
  for (const c of [...clash, ...overTolerance]) states[c] = WAITS | OVER
  return states
}

/** The queue of one assessment, or of all of them; what is decided and what a trial makes of it. */
export function readingQueueOf(state: CourseState, wanted: string | null, order: QueueOrder = 'matters'): QueueColumns {
  const { table, workings, adopted, tried, current } = state
  const { width, studentIds, assessmentIds, otherIds } = tried.cells
  const tolerances = Object.fromEntries(table.assessments.map((a) => [a.id, a.tolerance]))
  const decided = statesOf(workings, adopted, tolerances)
  const now = tried === workings ? decided : statesOf(tried, current, tolerances)
  const all: number[] = []
  const has = new Uint8Array(width)
  for (let c = 0; c < decided.length; c++)
    if (decided[c] !== 0 || now[c] !== 0) {
      all.push(c)
      has[c % width] = 1
    }
  const toSettle = assessmentIds.filter((_, a) => has[a] === 1)
  const assessmentId = toSettle.find((id) => id === wanted) ?? null
  const at = assessmentId === null ? -1 : tried.cells.assessment(assessmentId)
  const cell = Int32Array.from(at < 0 ? all : all.filter((c) => c % width === at))
  const rows: Rows = { cell, ...readingsIn(state, cell, (c) => ((decided[c]! | now[c]!) & OVER) !== 0), ...settledIn(state, cell) }
  const stakes = stakesOf(state, rows)
  return {
    toSettle,
    assessmentId,
    open: cell.reduce((n, c) => n + Number((decided[c]! & WAITS) !== 0), 0),
    openOver: cell.reduce((n, c) => n + Number((decided[c]! & OVER) !== 0), 0),
    studentIds,
    assessmentIds,
    markerIds: tried.markerIds,
    pairs: pairsOf(rows, tried.markerIds),
    otherIds,
    order: inOrder({ ...rows, ...stakes }, order, tried.cells),
    ...rows,
    ...stakes,
  }
}

type Rows = Pick<
  QueueColumns,
  'cell' | 'from' | 'marker' | 'mark' | 'spread' | 'typed' | 'over' | 'agreed' | 'ruled' | 'trying' | 'reopened'
>
type Stakes = Pick<QueueColumns, 'grades' | 'stake' | 'near'>

/** The readings of cells, and how far they, and what was typed beside them, lie apart. */
function readingsIn(
  { tried: w, table }: CourseState,
  cell: Int32Array,
  isOver: (cell: number) => boolean,
): Pick<Rows, 'from' | 'marker' | 'mark' | 'spread' | 'typed' | 'over'> {
  const { from: first, places } = readingPlaces(w)
  const tolerance = table.assessments.map((a) => a.tolerance)
  const from = new Int32Array(cell.length + 1)
  cell.forEach((c, i) => (from[i + 1] = from[i]! + first[c + 1]! - first[c]!))
  const marker = new Int32Array(from[cell.length]!)
  const mark = new Float64Array(marker.length)
  const spread = new Float64Array(cell.length)
  const typed = new Float64Array(cell.length).fill(NaN)
  const over = new Uint8Array(cell.length)
  cell.forEach((c, i) => {
    const entered = w.scripts.entered[c]!
    let [low, high, clashes] = [Infinity, -Infinity, false]
    for (let r = first[c]!, to = from[i]!; r < first[c + 1]!; r++, to++) {
      marker[to] = w.readings.marker[places[r]!]!
      const value = (mark[to] = w.readings.mark[places[r]!]!)
      low = Math.min(low, value)
      high = Math.max(high, value)
      clashes ||= entered === entered && !saysTheSame(value, entered)
    }
    if (clashes) typed[i] = entered
    spread[i] = clashes ? apart(Math.min(low, entered), Math.max(high, entered)) : apart(low, high)
    over[i] = Number(clashes || isOver(c) || spread[i]! > tolerance[c % w.cells.width]! + 1e-9)
  })
  return { from, marker, mark, spread, typed, over }
}

function pairsOf({ from, marker }: Rows, markerIds: readonly string[]): ReadingQueue['pairs'] {
  const many = markerIds.length
  const count = new Map<number, number>()
  for (let i = 0; i + 1 < from.length; i++)
    for (let b = from[i]! + 1; b < from[i + 1]!; b++)
      for (let a = from[i]!; a < b; a++) {
        const pair = Math.min(marker[a]!, marker[b]!) * many + Math.max(marker[a]!, marker[b]!)
        count.set(pair, (count.get(pair) ?? 0) + 1)
      }
  return [...count]
    .sort((x, y) => y[1] - x[1])
    .map(([pair, scripts]) => ({ a: markerIds[Math.floor(pair / many)]!, b: markerIds[pair % many]!, scripts }))
}

/** How cells are settled, and what of that is tried. */
function settledIn(
  { workings: was, tried: w, current, adopted }: CourseState,
  cell: Int32Array,
): Pick<Rows, 'agreed' | 'ruled' | 'trying' | 'reopened'> {
  const [now, before] = [current.standing, adopted.standing]
  const settled = (c: number) => SETTLES[now.source[c]!]!
  return {
    agreed: Float64Array.from(cell, (c) => (settled(c) ? now.plain[c]! : NaN)),
    ruled: Uint8Array.from(cell, (c) => Number(SOURCES[now.source[c]!] === 'ruled')),
    trying: Uint8Array.from(cell, (c) =>
      Number(settled(c) !== SETTLES[before.source[c]!] || (settled(c) && now.plain[c] !== before.plain[c])),
    ),
    reopened: Uint8Array.from(cell, (c) => Number(was.reopened.has(c) || w.reopened.has(c))),
  }
}

/** Open as it is decided: a row keeps its place while a trial settles it. */
const wasOpen = ({ trying, agreed }: Pick<Rows, 'trying' | 'agreed'>, i: number): boolean => trying[i] === 1 || agreed[i] !== agreed[i]

/** Grades of the lowest and the highest reading, and how near a boundary the middle lies, of all that is open or far apart: reckoned together. */
function stakesOf({ current }: CourseState, rows: Rows): Stakes {
  const { boundaries } = current.graded
  const limits = boundaries.map((b) => b.from).filter((from) => from > 0)
  const grades = boundaries.map((b) => b.grade)
  const placeOf = new Map(grades.map((grade, i) => [grade, i]))
  const stake = new Int16Array(2 * rows.cell.length).fill(NO_STAKE)
  const near = new Float64Array(rows.cell.length).fill(NaN)
  const wanted = [...rows.cell.keys()].filter((i) => wasOpen(rows, i) || rows.over[i] === 1)
  const asked = wanted.flatMap((i) => {
    const typed = rows.typed[i]!
    const marks = [...rows.mark.subarray(rows.from[i], rows.from[i + 1]), ...(typed === typed ? [typed] : [])]
    const middle = marks.reduce((s, m) => s + m, 0) / marks.length
    return [Math.min(...marks), Math.max(...marks), middle].map((plain) => ({ cell: rows.cell[i]!, plain }))
  })
  const would = current.gradesIf(asked)
  wanted.forEach((i, n) => {
    const [lowest, highest, middle] = would.slice(3 * n, 3 * n + 3)
    stake[2 * i] = placeOf.get(lowest!.grade ?? '') ?? NO_GRADE
    stake[2 * i + 1] = placeOf.get(highest!.grade ?? '') ?? NO_GRADE
    const { percent } = middle!
    if (percent !== null && limits.length > 0) near[i] = Math.min(...limits.map((from) => Math.abs(percent - from)))
  })
  return { grades, stake, near }
}

/** Those that are open first, then by what is asked for, then by their ids. */
function inOrder(rows: Rows & Stakes, order: QueueOrder, { width, studentIds, assessmentIds }: Workings['cells']): Int32Array {
  const { cell, over, spread, near, stake } = rows
  const open = Uint8Array.from(cell, (_, i) => Number(wasOpen(rows, i)))
  const atStake = Uint8Array.from(cell, (_, i) => Number(stake[2 * i] !== stake[2 * i + 1]))
  const bySpread = (a: number, b: number) => spread[b]! - spread[a]!
  const byNear = (a: number, b: number) => {
    const [x, y] = [orNull(near[a]!) ?? Infinity, orNull(near[b]!) ?? Infinity]
    return x === y ? 0 : x - y
  }
  const by: Record<QueueOrder, (a: number, b: number) => number> = {
    matters: (a, b) => over[b]! - over[a]! || atStake[b]! - atStake[a]! || bySpread(a, b),
    spread: bySpread,
    stake: (a, b) => atStake[b]! - atStake[a]! || byNear(a, b),
    near: byNear,
  }
  const byIds = (a: number, b: number) =>
    ascending(assessmentIds[cell[a]! % width]!, assessmentIds[cell[b]! % width]!) ||
    ascending(studentIds[Math.floor(cell[a]! / width)]!, studentIds[Math.floor(cell[b]! / width)]!)
  return Int32Array.from(cell.keys()).sort((a, b) => open[b]! - open[a]! || by[order](a, b) || byIds(a, b))
}

/** Keeps the mark that was typed, as a mark of the lead's own. */
export const keepTyped = (mark: number): AgreeRule => ({ kind: 'value', mark, reason: 'The mark typed in the sheet stands' })
