import { markerEffects, markerFit } from '#core/compare'
import type { CourseState } from '../../course/state'
import { ofWhat } from '../../parts/of-what'
import { nameOfMarker, readingsOfWhat } from '../../parts/readings-of'

export interface MarkerLean {
  id: string
  name: string
  n: number
  /** + generous; null where nobody else has read the same scripts. */
  effect: number | null
  interval: [low: number, high: number] | null
  erratic: boolean
}

const known = new WeakMap<object, Map<string, Map<string, MarkerLean>>>()

/** How markers lean in an assessment, as they handed their readings in; worked out once for readings that stay what they are. */
export function leansIn(state: CourseState, assessmentId: string): ReadonlyMap<string, MarkerLean> {
  const { table, tried } = state
  const all = known.get(tried.readings) ?? new Map<string, Map<string, MarkerLean>>()
  known.set(tried.readings, all)
  const before = all.get(assessmentId)
  if (before) return before
  const readings = readingsOfWhat(state, ofWhat(state, assessmentId))
  const effects = markerEffects(readings)
  const fit = effects && markerFit(readings, effects)
  const found = new Map(
    (effects?.markers ?? []).flatMap((m, marker): [string, MarkerLean][] => {
      if (m.n === 0) return []
      const id = tried.markerIds[marker]!
      return [
        [
          id,
          {
            id,
            name: nameOfMarker(table, tried, marker),
            n: m.n,
            effect: m.effect,
            interval: m.interval,
            erratic: fit![marker]!.erratic,
          },
        ],
      ]
    }),
  )
  all.set(assessmentId, found)
  return found
}
