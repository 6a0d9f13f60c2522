import { allResults, evidenceOf, outcomeShares, standingsTable, type Outcome, type OutcomeShares, type Standings } from '#core/outcomes'
import { criteriaOf } from '#core/scales'
import { workingsOf } from '#core/trial'
import type { CourseOutcomes } from '#contract'
import { planLoader, type PlanCore } from '../course/load-plan'
import { tableLoader } from '../course/load-table'
import type { Db } from '../db/open'
import { standardsOf } from '../standards/judge'
import { judgedQueries } from '../standards/judged-readings'
import { libraryQueries } from '../standards/queries'
import { courseOutcomes } from './course-outcomes'

export interface CourseStandings {
  plan: PlanCore
  outcomes: CourseOutcomes['outcomes']
  /** In the order of the roll, each in the order of the outcomes. */
  rows: Standings[]
  shares: OutcomeShares[]
}

/** Where everybody of a course stands; for a worker, since it reads all that was marked. */
export function courseStandings(db: Db, courseId: string): CourseStandings {
  const plans = planLoader(db)
  const { plan } = plans.load(courseId)
  const { outcomes, links, typed } = courseOutcomes(db, plans)(courseId, null)
  const workings = workingsOf(tableLoader(db, plans).load(courseId))
  const judged = judgedQueries(db)
  const standardOf = standardsOf(libraryQueries(db))
  const read = [...new Set(links.map((l) => l.assessmentId))].map((id) =>
    judged.ofAssessment(id, criteriaOf(standardOf(plan.assessments.find((a) => a.id === id)!.standardId))),
  )
  const found = evidenceOf(workings, links, read, new Map(outcomes.map((o) => [o.id, o.levels.length])))
  const those = outcomes.map(({ id, title, levels, reached, rule }): Outcome => ({
    id,
    title,
    levels: levels.map((l) => l.label),
    reached,
    rule,
  }))
  const rows = standingsTable(workings.course.students, those, allResults(found, typed))
  return { plan, outcomes, rows, shares: outcomeShares(rows, those) }
}
