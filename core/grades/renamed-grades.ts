import { checkBoundaries, type BoundaryFinding } from './check-boundaries'
import type { Boundary, Condition, Policy } from './course'

/** The grades that are called otherwise at the same place of a set: old name → new. None where grades come or go. */
export function renamedGrades(was: readonly Boundary[], is: readonly Boundary[]): Map<string, string> {
  if (was.length !== is.length) return new Map()
  const known = new Set(was.map((b) => b.grade))
  return new Map(was.flatMap((b, i) => (known.has(is[i]!.grade) ? [] : [[b.grade, is[i]!.grade] as const])))
}

/** Conditions under the new names of the grades that they name; the same list where none is renamed. */
export function conditionsRenamed<C extends Condition>(conditions: C[], was: readonly Boundary[], is: readonly Boundary[]): C[] {
  const names = renamedGrades(was, is)
  if (!conditions.some((c) => names.has(c.atMost))) return conditions
  return conditions.map((c) => ({ ...c, atMost: names.get(c.atMost) ?? c.atMost }))
}

/** Why conditions do not fit a set of grades, in a sentence: one names a grade that is gone. Null where all fit. */
export function conditionWithoutGrade(conditions: readonly Condition[], boundaries: readonly Boundary[]): string | null {
  const grades = new Set(boundaries.map((b) => b.grade))
  const asks = conditions.find((c) => !grades.has(c.atMost))
  return asks
    ? `A condition gives at most ${asks.atMost}, a grade that would be gone: change or remove the condition first (Bound, conditions).`
    : null
}

/** What is wrong with a set that is to take the place of another: by itself, and with the conditions, which go along with their grades. */
export function checkNewBoundaries(
  next: Boundary[],
  {
    boundaries: was,
    conditions,
    policy,
  }: { boundaries: readonly Boundary[]; conditions: readonly Condition[]; policy: Pick<Policy, 'above100'> },
): BoundaryFinding[] {
  const without = conditionWithoutGrade(conditionsRenamed([...conditions], was, next), next)
  return [
    ...checkBoundaries(next, policy.above100),
    ...(without === null ? [] : [{ row: null, kind: 'condition' as const, message: without, fix: null }]),
  ]
}
