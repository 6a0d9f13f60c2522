import { markerEffects, type MarkerEffects } from '../compare/marker-effects'
import { HAS_WORK } from './standing-marks'
import { appliesGrid, readingPlaces, type ReadingColumns, type Workings } from './workings'

/** Scripts read twice that it takes to tell how far a reading is off, or who leans. */
const ENOUGH = 10

/** What the readings of one assessment tell. */
export interface AssessmentEffects {
  /** Cells of the scripts that were read, of work that counts there. */
  read: number[]
  /** How many of them twice or more. */
  twice: number
  /** By their students’ rows; null where too few were read twice to tell. */
  effects: MarkerEffects | null
}

const known = new WeakMap<ReadingColumns, { by: unknown[]; found: Map<number, AssessmentEffects> }>()

/**
 * Who leans in an assessment, and by how much one reading of it is off; worked out once for readings that stay what they are.
 * @param at place of the assessment in the plan
 */
export function effectsIn(w: Workings, at: number): AssessmentEffects {
  const by = [w.scripts, w.cells, appliesGrid(w)]
  let of = known.get(w.readings)
  if (!of?.by.every((x, i) => x === by[i])) known.set(w.readings, (of = { by, found: new Map() }))
  const before = of.found.get(at)
  if (before) return before
  const found = fitIn(w, at)
  of.found.set(at, found)
  return found
}

function fitIn(w: Workings, at: number): AssessmentEffects {
  const { width, count, studentIds } = w.cells
  const { from, places } = readingPlaces(w)
  const applies = appliesGrid(w)
  const read: number[] = []
  let [twice, readings] = [0, 0]
  for (let cell = at; cell < count; cell += width) {
    const n = from[cell + 1]! - from[cell]!
    if (n === 0 || applies[cell] === 0 || !HAS_WORK[w.scripts.status[cell]!]) continue
    read.push(cell)
    readings += n
    if (n > 1) twice++
  }
  if (twice < ENOUGH) return { read, twice, effects: null }
  const script = new Int32Array(readings)
  const marker = new Int32Array(readings)
  const mark = new Float64Array(readings)
  let next = 0
  for (const cell of read)
    for (let i = from[cell]!; i < from[cell + 1]!; i++) {
      script[next] = (cell - at) / width
      marker[next] = w.readings.marker[places[i]!]!
      mark[next++] = w.readings.mark[places[i]!]!
    }
  return { read, twice, effects: markerEffects({ script, marker, mark, scripts: studentIds.length, markers: w.markerIds.length }) }
}
