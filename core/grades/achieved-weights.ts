import { carriedBy } from './carried-by'
import type { Course } from './course'
import { gradePacked } from './grade-course'
import type { GradeTable } from './grade-table'
import { packCourse, type PackedCourse } from './pack'

export interface AchievedWeight {
  assessmentId: string
  /** Share of how the finals differ that came from it; null where they do not differ. */
  share: number | null
  /** Standard deviation of its points of the course percent. */
  sd: number | null
}

/**
 * What each assessment that counts really decides: cov(x, T) / var(T), with x the points of the course percent T that came from it; over
 * students with a final percent. What is dropped, or does not apply, gives nothing. The shares sum to 1 but for what a cap takes off.
 * Source: Wang & Stanley 1970, Differential weighting, Review of Educational Research 40:663–705.
 */
export function achievedWeights(course: Course): AchievedWeight[] {
  const packed = packCourse(course)
  return achievedOf(packed, gradePacked(packed))
}

/** The same of a course in columns, with its grades; in the order of the plan. */
export function achievedOf(course: PackedCourse, table: GradeTable): AchievedWeight[] {
  const { assessmentIds, planOrder } = course
  const [x, xx, xt] = [0, 1, 2].map(() => new Float64Array(assessmentIds.length)) as [Float64Array, Float64Array, Float64Array]
  let [n, t, tt] = [0, 0, 0]
  // Held against the first of them, so that nothing is lost where large numbers are alike.
  const about = table.final.find((final) => final === final) ?? 0
  carriedBy(course, table, (row, { points, fraction }) => {
    if (table.final[row] !== table.final[row]) return
    const final = table.final[row]! - about
    n++
    t += final
    tt += final ** 2
    for (let a = 0; a < points.length; a++) {
      if (points[a] !== points[a]) continue
      const own = points[a]! * fraction[a]!
      x[a]! += own
      xx[a]! += own * own
      xt[a]! += own * final
    }
  })
  const variance = n < 2 ? 0 : (tt - (t * t) / n) / (n - 1)
  const inPlan = Array.from(assessmentIds.keys()).sort((a, b) => planOrder[a]! - planOrder[b]!)
  return inPlan.map((a) => {
    const assessmentId = assessmentIds[a]!
    if (n < 2 || variance <= VARIES) return { assessmentId, share: null, sd: null }
    return {
      assessmentId,
      share: (xt[a]! - (x[a]! * t) / n) / (n - 1) / variance,
      sd: Math.sqrt(Math.max(0, (xx[a]! - (x[a]! * x[a]!) / n) / (n - 1))),
    }
  })
}

/** Below this finals are all the same. */
const VARIES = 1e-12
