import { oneRosterStandings } from '#core/exchange/one-roster-standings'
import { caseNames } from '#core/exchange/case'
import type { SharesOfCourse } from '#contract'
import { uuidOf } from '../kernel/uuid'
import { rosterIds, rosterNames } from '../kernel/course/roster-ids'
import { courseStandings } from '../kernel/outcomes/course-standings'
import { reading } from './reading'

interface OfCourse {
  /** The database. */
  file: string
  courseId: string
}

/** How many of a course stand at each level of its outcomes. */
export const sharesOfCourse = ({ file, courseId }: OfCourse): SharesOfCourse =>
  reading(file, (db) => {
    const { plan, outcomes, shares } = courseStandings(db, courseId)
    const names = new Map(plan.sections.map((s) => [s.id, s.name]))
    return {
      term: plan.head.term,
      outcomes: shares.map(({ outcomeId, all, sections }, k) => ({
        outcomeId,
        levels: outcomes[k]!.levels.length,
        all,
        sections: [...sections].map(([id, counts]) => ({ name: names.get(id) ?? '', counts })),
      })),
    }
  })

/** Standings of a course as OneRoster results. */
export const standingsRoster = ({ file, courseId, at }: OfCourse & { at: string }): Uint8Array =>
  reading(file, (db) => {
    const { plan, outcomes, rows } = courseStandings(db, courseId)
    return oneRosterStandings(
      outcomes.map(({ id, title, levels, reached, rule }) => ({ id, title, levels: levels.map((l) => l.label), reached, rule })),
      rows,
      {
        course: plan.head,
        at,
        numberOf: rosterIds(db, courseId),
        classOf: rosterNames(db, courseId).classOf,
        // The one that it has where outcomes are taken out as CASE.
        identifierOf: (id) => uuidOf(caseNames.outcome(id)),
      },
    )
  })

/** Students with the level at which they stand on each of some outcomes; null where there is not enough evidence. */
export type LevelsOf = Record<string, [studentId: string, level: number | null][]>

export const standingLevels = ({ file, courseId, outcomeIds }: OfCourse & { outcomeIds: readonly string[] }): LevelsOf =>
  reading(file, (db) => {
    const { outcomes, rows } = courseStandings(db, courseId)
    const wanted = outcomes.flatMap((o, k) => (outcomeIds.includes(o.id) ? [[o.id, k] as const] : []))
    return Object.fromEntries(wanted.map(([id, k]) => [id, rows.map(({ studentId, standings }) => [studentId, standings[k]!.level])]))
  })
