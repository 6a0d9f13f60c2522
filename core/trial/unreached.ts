import type { Adjustment, Read } from '../rescale/adjustments'
import { isRereading } from '../rescale/methods'
import { readBehind, sectionSat } from './rescaled-marks'
import { HAS_WORK } from './standing-marks'
import { appliesGrid, NO_SCRIPT, type Workings } from './workings'

/**
 * Cells with a mark that an adjustment of readings covers and does not change, so that they keep what the others lose or gain: marks that a
 * person gave in their own right, typed ones where criteria are counted otherwise, and levelled ones where a lean is taken out.
 */
export function unreachedBy(w: Workings, { assessmentId, sectionIds, on, method }: Adjustment): number[] {
  if (!on || assessmentId === null) return []
  const misses = missesOf(method)
  const column = w.cells.assessment(assessmentId)
  if (!misses || column < 0) return []
  const applies = appliesGrid(w)
  const sat = sectionSat(w)
  const sections = sectionIds && new Set(sectionIds)
  return w.course.students.flatMap(({ id, sectionId }, row) => {
    const cell = row * w.cells.width + column
    const there = w.scripts.there[cell] !== NO_SCRIPT && applies[cell] !== 0 && HAS_WORK[w.scripts.status[cell]!]
    if (!there || (sections && !sections.has(sat(id, sectionId, assessmentId)))) return []
    if (!w.agreed.has(cell) && Number.isNaN(w.scripts.entered[cell])) return []
    return misses(readBehind(w, cell)) ? [cell] : []
  })
}

function missesOf(method: Adjustment['method']): ((read: Read | null) => boolean) | null {
  if (method.kind === 'markerEffect')
    return (read) =>
      !!read && read.readings.some((r) => r.markerId === method.markerId) && (read.rule === null || read.rule.kind === 'levelled')
  if (!isRereading(method)) return null
  const agreedByCriteria = new Set(method.scriptIds.filter((_, i) => method.markerIds[i] === null))
  return (read) => !read || (read.rule === null && !agreedByCriteria.has(read.scriptId))
}
