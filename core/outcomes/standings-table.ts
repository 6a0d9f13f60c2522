import { outcomeStanding, type Evidence, type OutcomeRule, type OutcomeStanding } from './outcome-standing'

export interface Outcome {
  id: string
  title: string
  /** Their labels, from the lowest up. */
  levels: readonly string[]
  /** The lowest level that counts as reached, from 1. */
  reached: number
  rule: OutcomeRule
}

export interface Standings {
  studentId: string
  sectionId: string
  /** In the order of the outcomes. */
  standings: OutcomeStanding[]
}

/** Students × outcomes: where each stands. */
export const standingsTable = (
  students: readonly { id: string; sectionId: string }[],
  outcomes: readonly Outcome[],
  evidenceOf: (studentId: string, outcomeId: string) => readonly Evidence[],
): Standings[] =>
  students.map(({ id, sectionId }) => ({
    studentId: id,
    sectionId,
    standings: outcomes.map((o) => outcomeStanding(evidenceOf(id, o.id), o.rule, o.reached)),
  }))

export interface LevelCounts {
  /** How many stand at each level, from the lowest up. */
  perLevel: number[]
  /** How many have not enough evidence. */
  none: number
  reached: number
}

export interface OutcomeShares {
  outcomeId: string
  all: LevelCounts
  /** By section id. */
  sections: Map<string, LevelCounts>
}

/** How many stand at each level of each outcome, of all and section by section; those without enough evidence apart. */
export function outcomeShares(table: readonly Standings[], outcomes: readonly Outcome[]): OutcomeShares[] {
  return outcomes.map((o, k) => {
    const none = (): LevelCounts => ({ perLevel: o.levels.map(() => 0), none: 0, reached: 0 })
    const all = none()
    const sections = new Map<string, LevelCounts>()
    for (const { sectionId, standings } of table) {
      const { level, reached } = standings[k]!
      let own = sections.get(sectionId)
      if (!own) sections.set(sectionId, (own = none()))
      for (const counts of [all, own]) {
        if (level === null) counts.none++
        else counts.perLevel[level - 1]!++
        if (reached) counts.reached++
      }
    }
    return { outcomeId: o.id, all, sections }
  })
}
