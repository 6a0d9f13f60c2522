import {
  allResults,
  evidenceOf,
  outcomeShares,
  outcomeStanding,
  standingsTable,
  type FoundEvidence,
  type LevelCounts,
  type Outcome,
  type OutcomeRule,
  type Standings,
} from '#core/outcomes'
import type { CourseOutcomes, JudgedReadings, TypedEvidence } from '#contract'
import type { CourseState } from '../../../course/state'
import { standingsInColumns, type StandingsColumns } from './in-columns'

/** A rule that is tried, and on which outcome. */
export interface TriedRule {
  outcomeId: string
  rule: OutcomeRule
}

/** Who would stand otherwise by a rule that is tried. */
export interface OtherStanding {
  studentId: string
  was: number | null
  is: number | null
  reachedWas: boolean
  reached: boolean
}

export interface StandingsFigures {
  rows: StandingsColumns
  shares: { outcomeId: string; all: LevelCounts; sections: { id: string; counts: LevelCounts }[] }[]
  tried: OtherStanding[] | null
}

export interface StudentEvidence extends Omit<FoundEvidence, 'assessmentId' | 'scriptId'> {
  assessmentId: string | null
  scriptId: string | null
  /** What a person noted. */
  typed: TypedEvidence | null
}

type Given = Pick<CourseOutcomes, 'outcomes' | 'links' | 'typed'>

const outcomesOf = ({ outcomes }: Given): Outcome[] =>
  outcomes.map(({ id, title, levels, reached, rule }) => ({ id, title, levels: levels.map((l) => l.label), reached, rule }))

/** All results of everybody, those of scripts and those that were noted by hand. */
function found({ workings }: CourseState, given: Given, judged: readonly JudgedReadings[]) {
  const levels = new Map(given.outcomes.map((o) => [o.id, o.levels.length]))
  const read = evidenceOf(workings, given.links, judged, levels)
  const results = allResults(read, given.typed)
  return (studentId: string, outcomeId: string): StudentEvidence[] =>
    results(studentId, outcomeId).map(({ level, day, found, typed }) => ({
      level,
      day,
      assessmentId: found?.assessmentId ?? null,
      criterionId: found?.criterionId ?? null,
      scriptId: found?.scriptId ?? null,
      typed,
    }))
}

/** Students × outcomes, shares by section, and who would stand otherwise by a rule that is tried. */
export function standingsFigures(
  state: CourseState,
  judged: readonly JudgedReadings[],
  given: Given,
  tried: TriedRule | null,
): StandingsFigures {
  const outcomes = outcomesOf(given)
  const results = found(state, given, judged)
  const rows = standingsTable(state.table.students, outcomes, results)
  return {
    rows: standingsInColumns(rows),
    shares: outcomeShares(rows, outcomes).map(({ outcomeId, all, sections }) => ({
      outcomeId,
      all,
      sections: state.table.sections.flatMap((s) => {
        const counts = sections.get(s.id)
        return counts ? [{ id: s.id, counts }] : []
      }),
    })),
    tried: tried && otherwise(rows, outcomes, tried, results),
  }
}

function otherwise(
  rows: readonly Standings[],
  outcomes: readonly Outcome[],
  { outcomeId, rule }: TriedRule,
  results: ReturnType<typeof found>,
): OtherStanding[] {
  const at = outcomes.findIndex((o) => o.id === outcomeId)
  if (at < 0) return []
  return rows.flatMap(({ studentId, standings }) => {
    const was = standings[at]!
    const now = outcomeStanding(results(studentId, outcomeId), rule, outcomes[at]!.reached)
    if (was.level === now.level && was.reached === now.reached) return []
    return [{ studentId, was: was.level, is: now.level, reachedWas: was.reached, reached: now.reached }]
  })
}

/** The results of one student on one outcome, the latest first. */
export const evidenceFigures = (
  state: CourseState,
  judged: readonly JudgedReadings[],
  given: Given,
  { studentId, outcomeId }: { studentId: string; outcomeId: string },
): StudentEvidence[] => found(state, given, judged)(studentId, outcomeId).toSorted((a, b) => ((a.day ?? '') < (b.day ?? '') ? 1 : -1))
