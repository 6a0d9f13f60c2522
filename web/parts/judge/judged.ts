import { rubricMark, scaleValue, schemeMark } from '#core/scales'
import type { Judged, StandardInUse } from '#contract'

export const NOTHING_JUDGED: Judged = { picks: {}, judgement: null, mark: null }

/** The mark that follows from what is judged so far; null while something is not. */
export function markFor(standard: StandardInUse | null, judged: Judged, outOf: number): number | null {
  if (!standard) return judged.mark
  if (standard.kind === 'scale') {
    const percent = judged.judgement === null ? null : scaleValue(standard.body, judged.judgement)
    return percent === null ? null : (percent / 100) * outOf
  }
  return standard.kind === 'rubric' ? rubricMark(standard.body, judged.picks, outOf) : schemeMark(standard.body, judged.picks, outOf)
}

/** What is not judged yet, by title. */
export function unjudged(standard: StandardInUse | null, { picks, judgement, mark }: Judged): string[] {
  if (!standard) return mark === null ? ['the mark'] : []
  if (standard.kind === 'scale') return judgement === null ? ['the judgement'] : []
  return standard.body.criteria.filter((c) => picks[c.id] === undefined).map((c) => c.title)
}

/** Place of the level that points lie in, from 0; null where there is none. */
export function levelAt(standard: StandardInUse | null, criterionId: string, points: number): number | null {
  if (standard?.kind !== 'rubric') return null
  const levels = standard.body.criteria.find((c) => c.id === criterionId)?.levels ?? []
  const at = levels.findIndex((l) => points >= l.points && points <= (l.to ?? l.points))
  return at < 0 ? null : at
}
