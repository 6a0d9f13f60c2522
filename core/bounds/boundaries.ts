import type { Boundary, CourseResult, Policy } from '../grades/course'
import { minus, rationalOf, toNumber } from '../grades/rational'
import { descending, gradeExactly, gradeIndex, needsExact, roundClear } from '../grades/rounding'
import { compareResults, type Mover } from '../rescale/compare-results'

/** The same percents, and conditions as far as they are met, under another set of boundaries. */
export function regrade(result: CourseResult, boundaries: Boundary[]): CourseResult {
  const sorted = descending(boundaries)
  const atMost = result.conditions.map((c) => sorted.findIndex((b) => b.grade === c.atMost))
  return {
    ...result,
    boundaries,
    students: result.students.map((s) => {
      const given = s.rounded === null ? -1 : gradeIndex(s.rounded, sorted)
      if (given < 0) return { ...s, grade: null, heldBy: [] }
      const heldBy = s.unmet.filter((i) => atMost[i]! > given)
      return { ...s, grade: sorted[Math.max(given, ...heldBy.map((i) => atMost[i]!))]!.grade, heldBy }
    }),
  }
}

/** The grade that a percent would get, rounded by the policy; null below every boundary. */
export function gradeAt(percent: number, boundaries: Boundary[], rounding: Policy['rounding']): string | null {
  const sorted = descending(boundaries)
  const at = needsExact(percent, rounding, sorted)
    ? gradeExactly(rationalOf(percent), rounding, sorted).grade
    : gradeIndex(roundClear(percent, rounding), sorted)
  return sorted[at]?.grade ?? null
}

export interface BoundaryImpact {
  movers: Mover[]
  up: number
  down: number
  /** From grade, to grade and section, with how many go that way. */
  moves: { from: string | null; to: string | null; sectionId: string; count: number }[]
}

/**
 * Who moves from which grade to which when boundaries change.
 * @param sectionOf section of each student; one without is counted under ''
 */
export function boundaryImpact(
  result: CourseResult,
  from: Boundary[],
  to: Boundary[],
  sectionOf: ReadonlyMap<string, string> = new Map(),
): BoundaryImpact {
  const { movers, up, down } = compareResults(regrade(result, from), regrade(result, to))
  const moves = new Map<string, BoundaryImpact['moves'][number]>()
  for (const m of movers) {
    const sectionId = sectionOf.get(m.studentId) ?? ''
    const key = JSON.stringify([m.fromGrade, m.toGrade, sectionId])
    const move = moves.get(key) ?? { from: m.fromGrade, to: m.toGrade, sectionId, count: 0 }
    move.count++
    moves.set(key, move)
  }
  return { movers, up, down, moves: [...moves.values()] }
}

export interface NearBoundary {
  studentId: string
  /** The grade that begins at the boundary, and its limit. */
  grade: string
  from: number
  /** The percent that is graded: rounded by the policy. */
  percent: number
  /** Percent above the limit, negative below it. */
  distance: number
}

/**
 * Students within `zone` percent of a boundary on either side (both ends included), nearest first. The
 * lowest grade's limit has nobody below it and is left out.
 */
export function nearBoundary(result: CourseResult, zone: number): NearBoundary[] {
  const limits = descending(result.boundaries).slice(0, -1)
  const near: NearBoundary[] = []
  for (const s of result.students) {
    if (s.rounded === null) continue
    for (const b of limits) {
      // Exact arithmetic is slow, and most are far away.
      if (Math.abs(s.rounded - b.from) > zone + 1e-6) continue
      const distance = toNumber(minus(rationalOf(s.rounded), rationalOf(b.from)))
      if (Math.abs(distance) <= zone) near.push({ studentId: s.studentId, grade: b.grade, from: b.from, percent: s.rounded, distance })
    }
  }
  return near.sort((a, b) => Math.abs(a.distance) - Math.abs(b.distance) || a.distance - b.distance)
}
