import { spreadOf, withinTolerance } from '../agree/agree-mark'
import { checkBoundaries } from '../grades/check-boundaries'
import { STATUSES } from '../grades/course'
import type { Standing } from './standing'
import { HAS_WORK, SOURCES, standingMarks } from './standing-marks'
import { unreachedBy } from './unreached'
import { appliesGrid, NO_SCRIPT, readingPlaces, readingsOf, type Workings } from './workings'

export type Stop = 'set-out' | 'agree' | 'mark' | 'compare' | 'reconcile' | 'rescale' | 'bound' | 'confirm'

/** Something not yet clear, at the stop where it is cleared. */
export interface OpenItem {
  stop: Stop
  kind: 'weight' | 'placement' | 'unmarked' | 'held' | 'readings' | 'clash' | 'spread' | 'unsettled' | 'unreached' | 'boundaries'
  /** Nothing can be confirmed while a blocking item is open. */
  blocking: boolean
  /** The assessments or components that it is about. */
  refs: string[]
  count: number
  /** How many of them had been settled and are open again. */
  reopened: number
}

export interface PlanFacts {
  /** Component id → weight as typed; null where it was never typed in. */
  weights: Record<string, number | null>
  /** Assessment id → worth as typed. */
  worths: Record<string, number | null>
  /** Assessment id → tolerance for the spread of readings, in its marks. */
  tolerances: Record<string, number>
}

/** What is still open in a course, in the order of the run. */
export function openItems(w: Workings, facts: PlanFacts, standing: Standing = standingMarks(w)): OpenItem[] {
  const items: OpenItem[] = []
  const add = (stop: Stop, kind: OpenItem['kind'], blocking: boolean, refs: string[], count = refs.length, reopened = 0) => {
    if (count > 0) items.push({ stop, kind, blocking, refs, count, reopened })
  }
  const { course } = w
  add('set-out', 'weight', true, [
    ...course.components.filter((c) => facts.weights[c.id] === null).map((c) => c.id),
    ...course.assessments.filter((a) => a.counts && facts.worths[a.id] === null).map((a) => a.id),
  ])
  const placed = new Set(course.placements.map((p) => p.assessmentId))
  add(
    'set-out',
    'placement',
    false,
    course.assessments.filter((a) => a.counts && !placed.has(a.id)).map((a) => a.id),
  )
  const { unmarked, held } = waiting(w, standing)
  const ids = w.cells.assessmentIds
  ids.forEach((id, a) => add('mark', 'unmarked', false, [id], unmarked[a]!))
  add(
    'mark',
    'held',
    false,
    ids.filter((_, a) => held[a]! > 0),
    held.reduce((n, x) => n + x, 0),
  )
  const { clash, overTolerance, within, thin } = readingQueue(w, facts.tolerances, standing)
  const counts = new Set(course.assessments.filter((a) => a.counts).map((a) => a.id))
  const addScripts = (stop: Stop, kind: OpenItem['kind'], blocking: boolean, all: readonly number[]) => {
    // What does not count holds nothing up.
    const scripts = all.filter((c) => counts.has(w.cells.assessmentId(c)))
    add(
      stop,
      kind,
      blocking,
      [...new Set(scripts.map(w.cells.assessmentId))],
      scripts.length,
      scripts.filter((c) => w.reopened.has(c)).length,
    )
  }
  addScripts('mark', 'readings', false, thin)
  addScripts('reconcile', 'clash', true, clash)
  addScripts('reconcile', 'spread', true, overTolerance)
  addScripts('reconcile', 'unsettled', true, within)
  const unreached = w.adjustments.flatMap((a) => unreachedBy(w, a))
  addScripts('rescale', 'unreached', false, [...new Set(unreached)])
  if (checkBoundaries(course.boundaries, course.policy.above100).length > 0) add('bound', 'boundaries', true, ['boundaries'])
  return items
}

const HELD = STATUSES.indexOf('held')
const NOTHING = SOURCES.indexOf('none')

/** Of each assessment that counts, how many of those it is set for wait for a mark, and how many are held. */
function waiting(w: Workings, standing: Standing): { unmarked: Int32Array; held: Int32Array } {
  const { cells, scripts } = w
  const applies = appliesGrid(w)
  const counts = w.course.assessments.map((a) => a.counts)
  const unmarked = new Int32Array(cells.width)
  const held = new Int32Array(cells.width)
  for (let c = 0; c < cells.count; c++) {
    if (applies[c] === 0 || scripts.there[c] === NO_SCRIPT) continue
    const a = c % cells.width
    if (!counts[a]) continue
    const status = scripts.status[c]!
    if (status === HELD) held[a]!++
    else if (HAS_WORK[status] && standing.source[c] === NOTHING) unmarked[a]!++
  }
  return { unmarked, held }
}

/** Cells that wait to be settled: those with a typed mark that their readings do not bear out, those over tolerance, those within it, and those with too few readings. */
export function readingQueue(
  w: Workings,
  tolerances: Record<string, number>,
  standing: Standing,
): { clash: number[]; overTolerance: number[]; within: number[]; thin: number[] } {
  const { cells } = w
  const { from } = readingPlaces(w)
  const applies = appliesGrid(w)
  const queue = { clash: [] as number[], overTolerance: [] as number[], within: [] as number[], thin: [] as number[] }
  for (let c = 0; c < cells.count; c++) {
    const read = from[c + 1]! - from[c]!
    if (read === 0 || applies[c] === 0 || !HAS_WORK[w.scripts.status[c]!]) continue
    const source = SOURCES[standing.source[c]!]!
    if (source === 'agreed' || source === 'ruled' || source === 'entered') continue
    const assessmentId = cells.assessmentId(c)
    const wanted = w.readingsWanted[assessmentId] ?? 1
    if (source === 'clash') queue.clash.push(c)
    else if (read < wanted) queue.thin.push(c)
    else if (read > 1 && !readWithin(w, c, tolerances[assessmentId] ?? 0)) queue.overTolerance.push(c)
    else if (wanted > 1 || w.reopened.has(c)) queue.within.push(c)
  }
  return queue
}

/** Below this doubles are not trusted to say on which side of the tolerance a spread lies. */
const NEAR = 1e-6

/** Whether the readings of a cell lie within a tolerance; exactly on decimals where it is close. */
function readWithin(w: Workings, cell: number, tolerance: number): boolean {
  const { from, places } = readingPlaces(w)
  let [low, high] = [Infinity, -Infinity]
  for (let i = from[cell]!; i < from[cell + 1]!; i++) {
    const mark = w.readings.mark[places[i]!]!
    low = Math.min(low, mark)
    high = Math.max(high, mark)
  }
  const over = high - low - tolerance
  return Math.abs(over) > NEAR ? over < 0 : withinTolerance(spreadOf(readingsOf(w, cell))!, tolerance)
}
