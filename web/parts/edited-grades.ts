import type { Boundary } from '#core/grades'

const FRESH = 'New grade'

/** A set with one more grade, below the one at a place and halfway to the next. */
export function withGradeBelow(rows: readonly Boundary[], at: number): Boundary[] {
  const named = rows.filter((b) => b.grade.startsWith(FRESH)).length
  const grade = named === 0 ? FRESH : `${FRESH} ${named + 1}`
  const fresh = { grade, from: Math.round((rows[at]!.from + rows[at + 1]!.from) * 5) / 10 }
  return [...rows.slice(0, at + 1), fresh, ...rows.slice(at + 1)]
}

/** A set without the grade at a place: the lowest of those left begins at nothing, so that everybody is caught. */
export function withoutGradeAt(rows: readonly Boundary[], at: number): Boundary[] {
  const left = rows.filter((_, i) => i !== at)
  return left.map((b, i) => (i === left.length - 1 ? { ...b, from: 0 } : b))
}

/** A set with something of one grade otherwise. */
export const withGrade = (rows: readonly Boundary[], at: number, patch: Partial<Boundary>): Boundary[] =>
  rows.map((b, i) => (i === at ? { ...b, ...patch } : b))
