import type { Outcome, Standings } from '../outcomes/standings-table'
import { putFrame, rosterWriter, type RosterCourse, type RosterNames } from './roster-files'

/** How standings are told to others who know the course by their own ids. */
export interface RosterOfStandings extends Pick<RosterNames, 'classOf'> {
  course: RosterCourse
  /** When they were taken. */
  at: string
  /** Student → the number by which others know them. */
  numberOf: ReadonlyMap<string, string>
  /** Outcome → the identifier that it has in CASE. */
  identifierOf: (outcomeId: string) => string
}

/**
 * Standings as OneRoster 1.2 CSV, bulk, zipped: each outcome as a line item of each section, each standing as a result with the level as
 * its score and its label as the text, both linked to the outcome’s identifier as a learning objective.
 * Who has not enough evidence has no score. Source: 1EdTech OneRoster 1.2, CSV binding.
 */
export function oneRosterStandings(outcomes: readonly Outcome[], rows: readonly Standings[], of: RosterOfStandings): Uint8Array {
  const { put, pack } = rosterWriter([
    'academicSessions.csv',
    'orgs.csv',
    'categories.csv',
    'lineItems.csv',
    'lineItemLearningObjectiveIds.csv',
    'results.csv',
    'resultLearningObjectiveIds.csv',
  ])
  const { course } = of
  const { set } = putFrame(put, course)
  const category = `${course.id}-category-outcomes`
  put('categories.csv', { sourcedId: category, title: 'Outcomes', weight: '' })
  const written = new Set<string>()
  const objective = (outcomeId: string) => ({ source: 'case', learningObjectiveId: of.identifierOf(outcomeId) })
  const item = (o: Outcome, sectionId: string): string => {
    const classSourcedId = of.classOf(sectionId)
    const sourcedId = `${course.id}-outcome-${o.id}-${classSourcedId}`
    if (written.has(sourcedId)) return sourcedId
    written.add(sourcedId)
    put('lineItems.csv', {
      sourcedId,
      title: o.title,
      description: o.levels.map((label, i) => `${i + 1} ${label}${i + 1 === o.reached ? ' (reached)' : ''}`).join(', '),
      ...set(course.lastDay),
      classSourcedId,
      categorySourcedId: category,
      resultValueMin: '1',
      resultValueMax: String(o.levels.length),
    })
    put('lineItemLearningObjectiveIds.csv', { sourcedId: `${sourcedId}-objective`, lineItemSourcedId: sourcedId, ...objective(o.id) })
    return sourcedId
  }
  for (const { studentId, sectionId, standings } of rows)
    outcomes.forEach((o, k) => {
      const { level, results } = standings[k]!
      if (results === 0) return
      const lineItemSourcedId = item(o, sectionId)
      const sourcedId = `${lineItemSourcedId}-${studentId}`
      put('results.csv', {
        sourcedId,
        lineItemSourcedId,
        studentSourcedId: of.numberOf.get(studentId) ?? studentId,
        classSourcedId: of.classOf(sectionId),
        scoreStatus: level === null ? 'partially graded' : 'fully graded',
        score: level === null ? '' : String(level),
        textScore: level === null ? '' : o.levels[level - 1]!,
        scoreDate: of.at.slice(0, 10),
        inProgress: String(level === null),
      })
      put('resultLearningObjectiveIds.csv', { sourcedId: `${sourcedId}-objective`, resultSourcedId: sourcedId, ...objective(o.id) })
    })
  return pack()
}
