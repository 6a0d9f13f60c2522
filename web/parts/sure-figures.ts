import { gradeCertainty } from '#core/bounds'
import { quantile } from '#core/compare'
import type { GivenErrors, KnownError } from '#core/trial'
import type { CourseState } from '../course/state'

export interface SureFigures {
  /** Standard error of the course percent in the middle of students, in percents; null where nothing tells. */
  typical: number | null
  /** For each student of the roll the chance that the true percent lies in the grade of theirs; NaN for who has none. */
  chance: Float64Array
  /** For each line, how many are expected to belong on its other side, and how many stand within the typical error of it. */
  lines: { grade: string; from: number; wrongSide: number; within: number }[]
  graded: number
  /** Of all uncertainty (variance), the part that each assessment brings, largest first. */
  parts: (KnownError & { share: number })[]
  /** Assessments that carry something and whose error nobody knows. */
  unknown: string[]
}

/** How sure the grades are under the lines as they are tried. */
export function sureFigures(state: CourseState, given: GivenErrors): SureFigures {
  const { result } = state.current
  const unsure = state.current.unsure(given)
  // Who has no work with a known error would look certain.
  const se = new Map(unsure.students.flatMap((s) => (s.se > 0 ? [[s.studentId, s.se] as const] : [])))
  const { students, boundaries } = gradeCertainty(result, se)
  const chances = new Map(students.map((s) => [s.studentId, s.chance]))
  const all = students.map((s) => se.get(s.studentId)!).sort((a, b) => a - b)
  const typical = quantile(all, 0.5)
  const bring = new Map<string, number>()
  let whole = 0
  for (const s of unsure.students)
    for (const p of s.parts) {
      const variance = (p.weight * p.error) ** 2 / p.readings
      bring.set(p.assessmentId, (bring.get(p.assessmentId) ?? 0) + variance)
      whole += variance
    }
  return {
    typical,
    chance: Float64Array.from(result.students, (s) => chances.get(s.studentId) ?? NaN),
    lines: boundaries.map((b) => ({
      ...b,
      within: typical === null ? 0 : result.students.filter((s) => s.rounded !== null && Math.abs(s.rounded - b.from) <= typical).length,
    })),
    graded: students.length,
    parts: unsure.known
      .map((k) => ({ ...k, share: whole === 0 ? 0 : (bring.get(k.assessmentId) ?? 0) / whole }))
      .sort((a, b) => b.share - a.share),
    unknown: unsure.unknown,
  }
}
