import type { RollChanges } from '#core/roll'
import type { RollQueries } from './queries'

/**
 * Does what a tried file would do, inside the caller's transaction.
 * @returns section ids by their code in lower case
 */
export function applyRollChanges(roll: RollQueries, courseId: string, changes: RollChanges): ReadonlyMap<string, string> {
  for (const { id, ...s } of changes.sections) {
    if (id === null) roll.addSection(courseId, s)
    else roll.editSection(id, s)
  }
  const idOf = new Map(roll.roll(courseId).sections.map((s) => [s.code.toLowerCase(), s.id]))
  for (const { id: known, stays, ...s } of changes.students) {
    const id = known ?? roll.addStudent(courseId, s)
    if (known !== null) roll.editStudent(known, s)
    roll.setStays(
      id,
      stays.map((stay) => ({ sectionId: idOf.get(stay.section)!, from: stay.from, to: stay.to })),
    )
  }
  return idOf
}
