import { JudgedError, markSoFar, unjudged as unjudgedOn } from '#core/marking'
import type { Judged, StandardInUse } from '#contract'

export const NOTHING_JUDGED: Judged = { picks: {}, judgement: null, mark: null }

/** The mark that follows from what is judged so far; null while something is not, or does not fit. */
export function markFor(standard: StandardInUse | null, judged: Judged, outOf: number): number | null {
  try {
    return markSoFar(judged, { standard, outOf })
  } catch (e) {
    if (e instanceof JudgedError) return null
    throw e
  }
}

/** What is not judged yet, by title. */
export const unjudged = (standard: StandardInUse | null, judged: Judged): string[] => unjudgedOn(judged, { standard })

/** Place of the level that points lie in, from 0; null where there is none. */
export function levelAt(standard: StandardInUse | null, criterionId: string, points: number): number | null {
  if (standard?.kind !== 'rubric') return null
  const levels = standard.body.criteria.find((c) => c.id === criterionId)?.levels ?? []
  const at = levels.findIndex((l) => points >= l.points && points <= (l.to ?? l.points))
  return at < 0 ? null : at
}
