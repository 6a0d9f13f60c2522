import type { GradeIf } from '#core/trial'
import type { CourseState } from '../../course/state'

/** What other marks on one script would lead to, as a screen asks for it. */
export function gradesIf(
  { tried, current }: CourseState,
  scriptId: string,
  plain: readonly number[],
): { scriptId: string; grades: GradeIf[] } {
  const cell = tried.cells.ofScript(scriptId)
  return { scriptId, grades: cell < 0 ? [] : current.gradesIf(plain.map((mark) => ({ cell, plain: mark }))) }
}
