import type { Boundary, Condition } from './course'

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
