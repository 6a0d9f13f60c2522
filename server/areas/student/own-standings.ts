import { evidenceOf, outcomeStanding } from '#core/outcomes'
import { criteriaOf } from '#core/scales'
import type { Workings } from '#core/trial'
import type { OutcomeBody, OwnWork } from '#contract'
import type { PlanLoader } from '../../kernel/course/load-plan'
import type { Db } from '../../kernel/db/open'
import { outcomeLinks } from '../../kernel/outcomes/links'
import { outcomeQueries } from '../../kernel/outcomes/queries'
import { standardsOf } from '../../kernel/standards/judge'
import { judgedQueries } from '../../kernel/standards/judged-readings'
import { libraryQueries } from '../../kernel/standards/queries'

type Plan = ReturnType<PlanLoader['load']>['plan']

/** Where a student stands on the outcomes that students are shown, by what is released to them and nothing else. */
export function ownStandings(db: Db) {
  const { newest, linksOf } = outcomeLinks(db)
  const outcomes = outcomeQueries(db)
  const judged = judgedQueries(db)
  const standardOf = standardsOf(libraryQueries(db))

  return (plan: Plan, workings: Workings, studentId: string, released: ReadonlySet<string>): NonNullable<OwnWork['standings']> => {
    const shown = [...new Set([...outcomes.shown(plan.head.id)].flatMap((id) => newest(id) ?? []))]
    if (shown.length === 0) return []
    const links = linksOf(plan).filter((l) => released.has(l.assessmentId))
    const bodies = new Map(shown.map((o) => [o.id, JSON.parse(o.body) as OutcomeBody]))
    const read = [...new Set(links.map((l) => l.assessmentId))].map((id) =>
      judged.ofStudent(id, studentId, criteriaOf(standardOf(plan.assessments.find((a) => a.id === id)!.standardId))),
    )
    const levels = new Map([...bodies].map(([id, b]) => [id, b.levels.length]))
    const found = evidenceOf(workings, links, read, levels).get(studentId)
    const typed = outcomes.typedOf(plan.head.id, studentId)
    return shown.map(({ id, title }) => {
      const { statement, levels: of, reached, rule } = bodies.get(id)!
      const evidence = [...(found?.get(id) ?? []), ...typed.filter((t) => newest(t.outcomeId)?.id === id)]
      const { level, reached: isReached, history, results } = outcomeStanding(evidence, rule, reached)
      return { title, statement, levels: of, reached, level, isReached, results, history }
    })
  }
}
