import type { CourseOutcomes } from '#contract'
import type { PlanLoader } from '../course/load-plan'
import type { Db } from '../db/open'
import { standardsOf } from '../standards/judge'
import { libraryQueries, type StandardRow } from '../standards/queries'
import { outcomeQueries } from './queries'

/** What gives evidence of which outcome. */
export function outcomeLinks(db: Db) {
  const library = libraryQueries(db)
  const standardOf = standardsOf(library)
  const own = outcomeQueries(db)

  /** An outcome as it stands now, whichever of its versions was named; null where there is none. */
  function newest(id: string): StandardRow | null {
    const row = library.get(id)
    return row?.kind === 'outcome' ? library.get(library.newestOf(id)) : null
  }

  function linksOf(plan: Pick<ReturnType<PlanLoader['load']>['plan'], 'head' | 'assessments'>): CourseOutcomes['links'] {
    const judged = new Map(plan.assessments.map((a) => [a.id, a]))
    return [
      ...plan.assessments.flatMap((a): CourseOutcomes['links'] => {
        const standard = standardOf(a.standardId)
        if (standard?.kind !== 'rubric') return []
        return standard.body.criteria.flatMap((c) => {
          const from = c.levels.map((l) => l.points)
          // What is taken off shows nothing that was reached.
          if (c.penalty) return []
          return [...new Set((c.outcomeIds ?? []).flatMap((id) => newest(id)?.id ?? []))].map((outcomeId) => ({
            outcomeId,
            assessmentId: a.id,
            criterionId: c.id,
            title: c.title,
            from: from.toSorted((x, y) => x - y),
          }))
        })
      }),
      ...own.judgements(plan.head.id).flatMap(({ assessmentId, outcomeId }): CourseOutcomes['links'] => {
        const a = judged.get(assessmentId)
        const scale = a && standardOf(a.standardId)
        const is = newest(outcomeId)
        if (!a || scale?.kind !== 'scale' || !is) return []
        const from = scale.body.labels.map((l) => (l.percent * a.outOf) / 100).toSorted((x, y) => x - y)
        return [{ outcomeId: is.id, assessmentId, criterionId: null, title: 'overall judgement', from }]
      }),
    ]
  }

  return { newest, linksOf }
}
