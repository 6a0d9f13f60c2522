import type { ReadingSet } from '#core/compare'
import { appliesGrid, HAS_WORK, type Workings } from '#core/trial'
import type { CourseState } from '../course/state'
import type { OfWhat } from './of-what'

/** The readings of some assessments, scripts by their cells; in marks of one assessment, else in percent. */
export interface ReadingsOf extends ReadingSet {
  script: Int32Array
  marker: Int32Array
  mark: Float64Array
}

/** What was handed in of what is looked at, of work that counts there. */
export function readingsOfWhat({ table, tried }: Pick<CourseState, 'table' | 'tried'>, what: OfWhat): ReadingsOf {
  const { cells, readings, scripts, markerIds } = tried
  const applies = appliesGrid(tried)
  const scale = new Float64Array(cells.width)
  for (const a of what.assessments) scale[a] = what.unit === 'marks' ? 1 : 100 / table.assessments[a]!.outOf
  const places: number[] = []
  readings.cell.forEach((cell, i) => {
    if (scale[cell % cells.width]! > 0 && applies[cell] === 1 && HAS_WORK[scripts.status[cell]!]) places.push(i)
  })
  return {
    script: Int32Array.from(places, (i) => readings.cell[i]!),
    marker: Int32Array.from(places, (i) => readings.marker[i]!),
    mark: Float64Array.from(places, (i) => readings.mark[i]! * scale[readings.cell[i]! % cells.width]!),
    scripts: cells.count,
    markers: markerIds.length,
  }
}

/** Readings by their script, of scripts with two or more; by their places in the set. */
export function readTwice({ script }: ReadingsOf): number[][] {
  const by = new Map<number, number[]>()
  script.forEach((cell, i) => {
    const own = by.get(cell)
    if (own) own.push(i)
    else by.set(cell, [i])
  })
  return [...by.values()].filter((own) => own.length > 1)
}

export const nameOfMarker = (table: CourseState['table'], w: Workings, marker: number): string => {
  const id = w.markerIds[marker]!
  return table.markers.find((m) => m.id === id)?.name ?? id
}
