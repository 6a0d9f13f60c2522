import normalCdf from '@stdlib/stats-base-dists-normal-cdf'
import type { Boundary, CourseResult, Policy } from '../grades/course'
import { descending } from '../grades/rounding'

export interface GradeCertainty {
  students: {
    studentId: string
    grade: string
    /** Chance that the true percent lies in the grade given. */
    chance: number
  }[]
  boundaries: {
    grade: string
    from: number
    /** Expected number of students whose true percent lies on the other side of it. */
    wrongSide: number
  }[]
}

/** The least percent that is graded as a limit says: with rounding, what rounds up to it. */
const leastOf = (from: number, rounding: Policy['rounding']): number => (rounding ? from - 0.5 / 10 ** rounding.decimals : from)

/** The least percents of the grades, the best first. */
export const leastPercents = (boundaries: Boundary[], rounding: Policy['rounding']): number[] =>
  descending(boundaries).map((b) => leastOf(b.from, rounding))

/** Standard errors beyond which a double tells no chance from none. */
const FAR = 9

/** The chance that a true value lies at or above a limit. */
function above(percent: number, se: number, limit: number): number {
  if (!(se > 0)) return percent >= limit ? 1 : 0
  const off = (percent - limit) / se
  return off > FAR ? 1 : off < -FAR ? 0 : 1 - normalCdf(limit, percent, se)
}

/** The chance that the true percent lies in the grade it has; the end grades are open. */
export function chanceOfGrade(percent: number, se: number, boundaries: Boundary[], rounding: Policy['rounding']): number {
  return chanceBetween(percent, se, leastPercents(boundaries, rounding))
}

/** @param limits the least percents of the grades, the best first */
function chanceBetween(percent: number, se: number, limits: readonly number[]): number {
  // What stands decides which grade that is, on doubles as well as it can be told.
  const at = limits.findIndex((limit, i) => percent >= limit - 1e-9 || i === limits.length - 1)
  const from = at === limits.length - 1 ? 1 : above(percent, se, limits[at]!)
  const to = at === 0 ? 0 : above(percent, se, limits[at - 1]!)
  return from - to
}

/**
 * How sure grades are, given how far a course percent may be off: normal around the percent before it is rounded.
 * @param sem standard error of the course percent, one for all or one for each student; who has none is left out
 * Source: Rudner 2001, Practical Assessment, Research and Evaluation 7(14).
 */
export function gradeCertainty(result: CourseResult, sem: number | ReadonlyMap<string, number>): GradeCertainty {
  const { boundaries, rounding } = result
  const sorted = descending(boundaries)
  const limits = leastPercents(boundaries, rounding)
  const graded = result.students.flatMap(({ studentId, adjusted, grade }) => {
    const se = typeof sem === 'number' ? sem : sem.get(studentId)
    return adjusted === null || grade === null || se === undefined ? [] : [{ studentId, percent: adjusted, grade, se }]
  })
  return {
    students: graded.map(({ studentId, percent, grade, se }) => ({
      studentId,
      grade,
      chance: chanceBetween(percent, se, limits),
    })),
    boundaries: sorted.slice(0, -1).map(({ grade, from }, i) => {
      const limit = limits[i]!
      const wrongSide = graded.reduce((s, g) => {
        const over = above(g.percent, g.se, limit)
        return s + (g.percent >= limit - 1e-9 ? 1 - over : over)
      }, 0)
      return { grade, from, wrongSide }
    }),
  }
}
