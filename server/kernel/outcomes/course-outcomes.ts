import type { CourseOutcome, CourseOutcomes, OutcomeBody } from '#contract'
import type { PlanLoader } from '../course/load-plan'
import type { Db } from '../db/open'
import { standardsOf } from '../standards/judge'
import { libraryQueries } from '../standards/queries'
import { outcomeLinks } from './links'
import { outcomeQueries } from './queries'

/** Outcomes of a course: what gives evidence of them, what was noted by hand, and what is shown. */
export function courseOutcomes(db: Db, plans: PlanLoader) {
  const library = libraryQueries(db)
  const standardOf = standardsOf(library)
  const own = outcomeQueries(db)
  const { newest, linksOf } = outcomeLinks(db)

  /** @param personId whose outcomes are said to be theirs */
  return (courseId: string, personId: string | null): CourseOutcomes => {
    const { plan } = plans.load(courseId)
    const links = linksOf(plan)
    const notes = own.typed(courseId)
    // Each is looked up once, however many notes there are on it.
    const isNow = new Map([...new Set(notes.map((t) => t.outcomeId))].map((id) => [id, newest(id)?.id]))
    const typed = notes.flatMap((t) => {
      const outcomeId = isNow.get(t.outcomeId)
      return outcomeId === undefined ? [] : [{ ...t, outcomeId }]
    })
    const shown = new Set([...own.shown(courseId)].flatMap((id) => newest(id)?.id ?? []))
    const judgements = own.judgements(courseId)
    // One that students are to see is followed, also before anything gives evidence of it.
    const ids = new Set([...links.map((l) => l.outcomeId), ...typed.map((t) => t.outcomeId), ...shown])
    const outcomes = [...ids].map((id): CourseOutcome => {
      const row = library.get(id)!
      return {
        id,
        title: row.title,
        ...(JSON.parse(row.body) as OutcomeBody),
        mine: row.ownerId === personId,
        owner: row.owner,
        revision: row.revision,
        shown: shown.has(id),
        judgements: judgements.flatMap((j) => (newest(j.outcomeId)?.id === id ? j.assessmentId : [])),
      }
    })
    return {
      outcomes,
      links,
      judged: plan.assessments.flatMap((a) => (standardOf(a.standardId)?.kind === 'scale' ? a.id : [])),
      typed,
    }
  }
}
