import { effectiveWeights, type SectionWeights } from './weights'
import type { Course } from './course'

export interface UncommonSection {
  sectionId: string
  /** Assessments most sections have and this one lacks. */
  lacks: string[]
  /** Assessments this one has and most lack. */
  alone: string[]
  /** What else carries a different share here, 0..1, because of that. */
  differs: { assessmentId: string; share: number; elsewhere: number }[]
}

const EPSILON = 1e-9

/**
 * Sections whose plan does not carry what most sections' does: the commonest set of effective weights is taken as
 * the common one (the first section's where several are as common), and every section that differs is named with
 * what it lacks, what it has alone, and what carries another share because of that. Empty where all carry the same.
 */
export function uncommonSections(course: Course, weights: SectionWeights[] = effectiveWeights(course)): UncommonSection[] {
  const alike = new Map<string, SectionWeights[]>()
  for (const w of weights) {
    const key = w.weights.map((x) => `${x.assessmentId}=${(x.share ?? x.points ?? 0).toFixed(9)}`).join(' ')
    const list = alike.get(key)
    if (list) list.push(w)
    else alike.set(key, [w])
  }
  if (alike.size <= 1) return []
  const common = [...alike.values()].reduce((best, list) => (list.length > best.length ? list : best))[0]!
  const usual = new Map(common.weights.map((x) => [x.assessmentId, x]))
  return weights
    .map((w): UncommonSection => {
      const own = new Map(w.weights.map((x) => [x.assessmentId, x]))
      return {
        sectionId: w.sectionId,
        lacks: common.weights.filter((x) => !own.has(x.assessmentId)).map((x) => x.assessmentId),
        alone: w.weights.filter((x) => !usual.has(x.assessmentId)).map((x) => x.assessmentId),
        differs: w.weights.flatMap((x) => {
          const elsewhere = usual.get(x.assessmentId)?.share
          if (x.share === null || elsewhere === undefined || elsewhere === null || Math.abs(x.share - elsewhere) < EPSILON) return []
          return [{ assessmentId: x.assessmentId, share: x.share, elsewhere }]
        }),
      }
    })
    .filter((u) => u.lacks.length + u.alone.length + u.differs.length > 0)
}
