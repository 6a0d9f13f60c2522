import { HAS_WORK, type Workings } from '#core/trial'
import type { CourseState } from '../course/state'

/** What an assessment carries of the course where everything is set: component weight, shared by worth or equally. */
function carried({ table }: CourseState): number[] {
  const inside = new Map(
    table.components.map((c) => [
      c.id,
      table.assessments
        .filter((a) => a.componentId === c.id && a.counts && !a.bonus)
        .reduce((s, a) => s + (c.combine === 'equally' ? 1 : (a.worth ?? 0)), 0),
    ]),
  )
  return table.assessments.map((a) => {
    const c = table.components.find((x) => x.id === a.componentId)!
    const sum = inside.get(c.id)!
    if (!a.counts || a.bonus || c.bonus || sum === 0) return 0
    return ((c.weight ?? 0) * (c.combine === 'equally' ? 1 : (a.worth ?? 0))) / sum
  })
}

/**
 * What each student reached in some assessments, in percent, each by what it carries of the course; NaN for who has no mark in any.
 * @param places of the assessments in the plan
 */
export function reachedIn(state: CourseState, w: Workings, places: readonly number[]): Float64Array {
  const weights = carried(state)
  const { width } = w.cells
  const { mark } = state.current.standing
  const reached = new Float64Array(w.cells.studentIds.length)
  for (let s = 0; s < reached.length; s++) {
    let [points, of] = [0, 0]
    for (const a of places) {
      const cell = s * width + a
      const value = mark[cell]!
      if (value !== value || !HAS_WORK[w.scripts.status[cell]!]) continue
      points += (weights[a]! * value) / state.table.assessments[a]!.outOf
      of += weights[a]!
    }
    reached[s] = of > 0 ? (100 * points) / of : NaN
  }
  return reached
}
