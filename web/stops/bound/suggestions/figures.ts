import { suggestBoundaries, type AskedWay, type SuggestedLine } from '#core/bounds'
import { STATUSES } from '#core/grades'
import { HAS_WORK } from '#core/trial'
import type { CourseState } from '../../../course/state'

/** A way as it is asked for here: overall judgements stand in the course already. */
export type WayHere =
  | Exclude<AskedWay, { way: 'borderlineRegression' }>
  | { way: 'borderlineRegression'; grade: string; assessmentId: string; borderline: number }

export interface Suggested {
  lines: SuggestedLine[]
  /** What was judged: judgement and percent of each student, or percent and whether they could. */
  judged: { x: number; y: number }[]
}

const DRAWS = { seed: 214, draws: 400 }

/** What an overall judgement says of each student who was judged, in percent of its scale, before it is rescaled. */
export function judgementsOf({ tried: w, current }: CourseState, assessmentId: string): { studentId: string; judgement: number }[] {
  const at = w.cells.assessment(assessmentId)
  const outOf = w.course.assessments[at]?.outOf
  if (outOf === undefined) return []
  return w.cells.studentIds.flatMap((studentId, s) => {
    const cell = s * w.cells.width + at
    const mark = current.standing.plain[cell]!
    return mark === mark && HAS_WORK[w.scripts.status[cell]!] && STATUSES[w.scripts.status[cell]!] !== 'held'
      ? [{ studentId, judgement: (100 * mark) / outOf }]
      : []
  })
}

/** Lines by one way, on the percents of the trial. */
export function suggestedLines(state: CourseState, asked: WayHere): Suggested {
  const { result } = state.current
  if (asked.way === 'contrastingGroups') {
    const at = new Map(result.students.map((s) => [s.studentId, s.adjusted]))
    return {
      lines: suggestBoundaries(result, asked, DRAWS),
      judged: asked.judgements.flatMap(({ studentId, able }) => {
        const x = at.get(studentId) ?? null
        return x === null ? [] : [{ x, y: able ? 1 : 0 }]
      }),
    }
  }
  if (asked.way !== 'borderlineRegression') return { lines: suggestBoundaries(result, asked, DRAWS), judged: [] }
  const judgements = judgementsOf(state, asked.assessmentId)
  const percentOf = new Map(result.students.map((s) => [s.studentId, s.adjusted]))
  return {
    lines: suggestBoundaries(result, { way: asked.way, grade: asked.grade, borderline: asked.borderline, judgements }, DRAWS),
    judged: judgements.flatMap(({ studentId, judgement }) => {
      const y = percentOf.get(studentId) ?? null
      return y === null ? [] : [{ x: judgement, y }]
    }),
  }
}

/** The different judgements that were given in an overall judgement, lowest first, with how often. */
export function judgementsGiven(state: CourseState, assessmentId: string): { judgement: number; count: number }[] {
  const counts = new Map<number, number>()
  for (const { judgement } of judgementsOf(state, assessmentId)) {
    const rounded = Number(judgement.toFixed(3))
    counts.set(rounded, (counts.get(rounded) ?? 0) + 1)
  }
  return [...counts].map(([judgement, count]) => ({ judgement, count })).sort((a, b) => a.judgement - b.judgement)
}
