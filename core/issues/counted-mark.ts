import type { Policy } from '../grades/course'
import { afterLate } from '../grades/scoring'
import type { IssuedMark } from './issue'

/** What a confirmed mark counts and what made it so, in marks: where there is a mark, `marked + rescaled + late = counts`. */
export interface CountedMark {
  /** As it was marked; null where there is no mark, or its status stands in its place. */
  marked: number | null
  /** What rescaling added. */
  rescaled: number
  /** What lateness took: 0 or less. */
  late: number
  /** Null where nothing counts: it is open, or left out. */
  counts: number | null
}

/** @param outOf of the assessment @param policy that was frozen with the mark */
export function countedMark(
  { mark, plain, status, daysLate }: IssuedMark,
  outOf: number,
  { late, missing, absent }: Pick<Policy, 'late' | 'missing' | 'absent'>,
): CountedMark {
  const instead = (counts: number | null): CountedMark => ({ marked: null, rescaled: 0, late: 0, counts })
  if (status === 'missing')
    return instead(missing.kind === 'pending' ? null : missing.kind === 'zero' ? 0 : (missing.percent / 100) * outOf)
  if (status === 'absent') return instead(absent.kind === 'zero' ? 0 : null)
  if (status === 'exempt' || status === 'held' || mark === null) return instead(null)
  const marked = plain ?? mark
  const counts = status === 'late' ? afterLate(mark / outOf, daysLate, late) * outOf : mark
  return { marked, rescaled: mark - marked, late: counts - mark, counts }
}
