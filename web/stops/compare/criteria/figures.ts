import { descending, group, mean } from 'd3-array'
import { krippendorffAlpha } from '#core/agree'
import { markerByCriterion, type MarkerEffect } from '#core/compare'
import { criterionFigures, type CriterionFigures, type Picks, type Rubric } from '#core/scales'
import { appliesGrid, HAS_WORK } from '#core/trial'
import type { JudgedCriterion, JudgedReadings } from '#contract'
import type { CourseState } from '../../../course/state'

export interface ComparedCriterion extends CriterionFigures {
  title: string
  max: number
  penalty: boolean
  levels: number[]
  /** What each level is called, and its points. */
  labels: { points: number; words: string }[]
  /** By how much two readings of a script differ on it in the middle of cases, in points; null where nobody read twice. */
  apart: number | null
  alpha: number | null
  /** Levels as they were given, reading by reading: whose script, and which level (−1 for none of them). */
  given: { studentId: string; level: number }[]
}

export interface ComparedCriteria {
  assessmentId: string
  readings: number
  criteria: ComparedCriterion[]
}

/** Which readings are looked at: all, those of a section's scripts, or one marker's. */
export type Only = { sectionId: string } | { markerId: string } | null

const asRubric = (criteria: readonly JudgedCriterion[]): Rubric => ({
  criteria: criteria.map((c) => ({
    id: c.id,
    title: c.title,
    penalty: c.penalty,
    ranges: c.levels.some((l) => l.to !== null),
    // Without levels any points up to the most are given.
    levels:
      c.levels.length > 0
        ? c.levels.map((l) => ({ points: l.points, words: l.words, ...(l.to === null ? {} : { to: l.to }) }))
        : [{ points: c.max, words: '' }],
  })),
})

/** Readings of work that counts, by their places. */
function counting({ tried }: CourseState, judged: JudgedReadings): number[] {
  const { cells, scripts } = tried
  const applies = appliesGrid(tried)
  return Array.from(judged.mark).flatMap((_, i) => {
    const cell = cells.of(judged.students[judged.student[i]!]!, judged.assessmentId)
    return cell >= 0 && applies[cell] === 1 && HAS_WORK[scripts.status[cell]!] ? i : []
  })
}

const picksOf = (judged: JudgedReadings, reading: number): Picks =>
  Object.fromEntries(
    judged.criteria.flatMap((c, k) => {
      const points = judged.points[k]![reading]!
      return points === points ? [[c.id, points]] : []
    }),
  )

/** What each criterion did: how often each level was given, what goes with the rest, how alike two readings are. */
export function compareCriteria(state: CourseState, judged: JudgedReadings, only: Only): ComparedCriteria {
  const sectionOf = new Map(state.table.students.map((s) => [s.id, s.sectionId]))
  const readings = counting(state, judged).filter(
    (i) =>
      only === null ||
      ('sectionId' in only
        ? sectionOf.get(judged.students[judged.student[i]!]!) === only.sectionId
        : judged.markers[judged.marker[i]!] === only.markerId),
  )
  const rubric = asRubric(judged.criteria)
  const picks = readings.map((i) => picksOf(judged, i))
  const byScript = new Map<number, number[]>()
  for (const i of readings) byScript.set(judged.student[i]!, [...(byScript.get(judged.student[i]!) ?? []), i])
  const criteria = criterionFigures(rubric, picks).map((figures, k): ComparedCriterion => {
    const c = judged.criteria[k]!
    const points = judged.points[k]!
    const units = [...byScript.values()].map((own) => own.map((i) => points[i]!).filter((p) => p === p)).filter((u) => u.length > 1)
    const differences = units.map((u) => Math.abs(u[0]! - u[1]!)).sort((a, b) => a - b)
    return {
      ...figures,
      levels: c.levels.length > 0 ? figures.levels : [],
      unused: c.levels.length > 0 ? figures.unused : [],
      title: c.title,
      max: c.max,
      penalty: c.penalty,
      labels: c.levels.map((l) => ({ points: l.points, words: l.words })),
      apart: differences.length > 0 ? differences[differences.length >> 1]! : null,
      alpha: krippendorffAlpha(units, 'interval').alpha,
      given: readings.flatMap((i) => {
        const p = points[i]!
        if (p !== p) return []
        const level = c.levels.findIndex((l) => p >= l.points && p <= (l.to ?? l.points))
        return [{ studentId: judged.students[judged.student[i]!]!, level }]
      }),
    }
  })
  return { assessmentId: judged.assessmentId, readings: readings.length, criteria }
}

/** One marker’s judgement of a criterion of one script, beside what others gave it. */
export interface GivenBy {
  studentId: string
  points: number
  /** Mean of the other readings; null where nobody else has read it. */
  others: number | null
}

/** All that a marker gave on one criterion: first what lies farthest above the others, last what nobody else has read. */
export function givenBy(state: CourseState, judged: JudgedReadings, markerId: string, criterionId: string): GivenBy[] {
  const points = judged.points[judged.criteria.findIndex((c) => c.id === criterionId)]
  if (!points) return []
  const byScript = group(
    counting(state, judged).filter((i) => points[i] === points[i]),
    (i) => judged.student[i]!,
  )
  const given = [...byScript].flatMap(([student, readings]): GivenBy[] => {
    const own = readings.find((i) => judged.markers[judged.marker[i]!] === markerId)
    if (own === undefined) return []
    const others = mean(readings.filter((i) => i !== own).map((i) => points[i]!)) ?? null
    return [{ studentId: judged.students[student]!, points: points[own]!, others }]
  })
  const above = (g: GivenBy) => (g.others === null ? -Infinity : g.points - g.others)
  return given.sort((a, b) => descending(above(a), above(b)))
}

export interface LeansByCriterion {
  assessmentId: string
  criteria: { id: string; title: string; max: number }[]
  /** Marker → their lean on each criterion, + generous, in points; null where it cannot be told. */
  leans: Record<string, (Pick<MarkerEffect, 'effect' | 'interval'> | null)[]>
}

/** Who leans where: the markers' model for each criterion on its own. Where points are taken off, more of them is severe. */
export function leansByCriterion(state: CourseState, judged: JudgedReadings): LeansByCriterion {
  const readings = counting(state, judged)
  const columns = { script: [] as number[], marker: [] as number[], mark: [] as number[], criterion: [] as number[] }
  judged.criteria.forEach((c, k) => {
    for (const i of readings) {
      const points = judged.points[k]![i]!
      if (points !== points) continue
      columns.script.push(judged.student[i]!)
      columns.marker.push(judged.marker[i]!)
      columns.mark.push(c.penalty ? -points : points)
      columns.criterion.push(k)
    }
  })
  const of = markerByCriterion({
    ...columns,
    scripts: judged.students.length,
    markers: judged.markers.length,
    criteria: judged.criteria.length,
  })
  return {
    assessmentId: judged.assessmentId,
    criteria: judged.criteria.map(({ id, title, max }) => ({ id, title, max })),
    leans: Object.fromEntries(
      judged.markers.map((id, m) => [
        id,
        of.map((effects) => {
          const own = effects?.markers[m]
          return own ? { effect: own.effect, interval: own.interval } : null
        }),
      ]),
    ),
  }
}
