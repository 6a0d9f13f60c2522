import { markerEffects, markerFit, type MarkerFit } from '#core/compare'
import type { CourseState } from '../../../course/state'
import { LEVEL_SHARE } from '../../../parts/compared'
import { ofWhat, type OfWhat } from '../../../parts/of-what'
import { nameOfMarker, readingsOfWhat, readTwice } from '../../../parts/readings-of'

export interface ComparedMarker {
  id: string
  name: string
  /** Readings, and those of scripts that somebody else read as well. */
  n: number
  shared: number
  /** + generous, − severe; null for who shares no script. */
  lean: number | null
  interval: [low: number, high: number] | null
  /** How unevenly they mark. */
  fit: MarkerFit
  /** Which group of linked markers they belong to, the largest first. */
  group: number
}

/** A reading that would link a group of markers with the largest one. */
export interface JoiningReading {
  assessmentId: string
  studentId: string
  markerId: string
}

export interface ComparedMarkers extends Pick<OfWhat, 'subject' | 'title' | 'unit' | 'top'> {
  tolerance: number
  scripts: number
  readings: number
  /** By lean, the most generous first; those of smaller groups after the largest. */
  markers: ComparedMarker[]
  /** Of markers who can be compared among each other. */
  groups: string[][]
  /** The fewest readings that would link all of them. */
  joins: JoiningReading[]
  /** Marker → students whose scripts they have read and fewest others, first those nobody else has; of one assessment. */
  readBy: Record<string, string[]>
  /** Pairs with how many scripts both read. */
  links: { a: string; b: string; scripts: number }[]
}

/** Who leans among the markers of an assessment, a component or the course, and who can be compared at all. */
export function compareMarkers(state: CourseState, wanted: string | null): ComparedMarkers {
  const { table, tried } = state
  const what = ofWhat(state, wanted)
  const readings = readingsOfWhat(state, what)
  const effects = markerEffects(readings)
  const fit = effects && markerFit(readings, effects)
  const idOf = (marker: number) => tried.markerIds[marker]!
  const both = readTwice(readings)
  const shared = new Int32Array(readings.markers)
  const pairs = new Map<string, number>()
  for (const own of both)
    own.forEach((i, nth) => {
      shared[readings.marker[i]!]!++
      for (let j = 0; j < nth; j++) {
        const [a, b] = [readings.marker[own[j]!]!, readings.marker[i]!].sort((x, y) => x - y)
        pairs.set(`${a} ${b}`, (pairs.get(`${a} ${b}`) ?? 0) + 1)
      }
    })
  const markers = (effects?.markers ?? []).flatMap((m, marker): ComparedMarker[] => {
    if (m.n === 0) return []
    return [
      {
        id: idOf(marker),
        name: nameOfMarker(table, tried, marker),
        n: m.n,
        shared: shared[marker]!,
        lean: m.effect,
        interval: m.interval,
        fit: fit![marker]!,
        group: m.group,
      },
    ]
  })
  const linked = effects?.groups ?? []
  return {
    subject: what.subject,
    title: what.title,
    unit: what.unit,
    top: what.top,
    tolerance: what.top * LEVEL_SHARE,
    scripts: new Set(readings.script).size,
    readings: readings.mark.length,
    markers: markers.sort((a, b) => a.group - b.group || (b.lean ?? -Infinity) - (a.lean ?? -Infinity) || (a.name < b.name ? -1 : 1)),
    groups: linked.map((group) => group.map(idOf)),
    joins: joiningReadings(state, what, readings, linked),
    readBy: what.unit === 'marks' ? readBy(state, readings) : {},
    links: [...pairs].map(([key, scripts]) => {
      const [a, b] = key.split(' ').map((m) => idOf(Number(m)))
      return { a: a!, b: b!, scripts }
    }),
  }
}

/** Each marker's scripts, those that fewest others have read first. */
function readBy({ tried }: CourseState, { script, marker }: ReturnType<typeof readingsOfWhat>): Record<string, string[]> {
  const times = new Map<number, number>()
  script.forEach((cell) => times.set(cell, (times.get(cell) ?? 0) + 1))
  const own = new Map<number, number[]>()
  script.forEach((cell, i) => {
    const list = own.get(marker[i]!)
    if (list) list.push(cell)
    else own.set(marker[i]!, [cell])
  })
  return Object.fromEntries(
    [...own].map(([m, cells]) => [
      tried.markerIds[m]!,
      cells.sort((a, b) => times.get(a)! - times.get(b)!).map((cell) => tried.cells.studentId(cell)),
    ]),
  )
}

/** One reading for each group but the largest: of a script of the largest, by whoever of the group has read least. */
function joiningReadings(
  { tried }: CourseState,
  what: OfWhat,
  { script, marker }: ReturnType<typeof readingsOfWhat>,
  groups: readonly (readonly number[])[],
): JoiningReading[] {
  const [largest, ...others] = groups
  if (!largest || others.length === 0) return []
  const inLargest = new Set(largest)
  const readBy = new Map<number, number>()
  marker.forEach((m) => readBy.set(m, (readBy.get(m) ?? 0) + 1))
  const theirs = [...new Set([...script].filter((_, i) => inLargest.has(marker[i]!)))]
  if (theirs.length === 0 || what.assessments.length === 0) return []
  return others.map((group, i) => {
    const [least] = [...group].sort((a, b) => readBy.get(a)! - readBy.get(b)!)
    const cell = theirs[i % theirs.length]!
    return {
      assessmentId: tried.cells.assessmentId(cell),
      studentId: tried.cells.studentId(cell),
      markerId: tried.markerIds[least!]!,
    }
  })
}
