import { group } from 'd3-array'
import type { FoundEvidence } from './evidence'
import type { Evidence } from './outcome-standing'

/** A result that a person noted. */
export interface TypedResult extends Evidence {
  studentId: string
  outcomeId: string
}

/** A result with where it comes from: a script, or what somebody noted. */
export type AnyResult<T extends TypedResult> = Evidence & ({ found: FoundEvidence; typed: null } | { found: null; typed: T })

/** All results of a student on an outcome, those of scripts before those that were noted. */
export function allResults<T extends TypedResult>(
  found: ReadonlyMap<string, ReadonlyMap<string, readonly FoundEvidence[]>>,
  typed: readonly T[],
): (studentId: string, outcomeId: string) => AnyResult<T>[] {
  const noted = group(typed, (t) => `${t.studentId} ${t.outcomeId}`)
  return (studentId, outcomeId) => [
    ...(found.get(studentId)?.get(outcomeId) ?? []).map((f) => ({ level: f.level, day: f.day, found: f, typed: null })),
    ...(noted.get(`${studentId} ${outcomeId}`) ?? []).map((t) => ({ level: t.level, day: t.day, found: null, typed: t })),
  ]
}
