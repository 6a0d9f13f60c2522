import { sightOf } from '#core/roles'
import type { Role } from '#contract'
import type { Db } from '../db/open'

interface Named {
  id: string
  name: string
  candidate: string
}

/**
 * Puts candidate numbers in the place of names for who may not see names in a course, and in the order of
 * numbers, since an order by name tells names too. Scripts that are read blind are called by numbers of their own, on the desk alone.
 */
export function namesFor(db: Db) {
  const setting = db.prepare<[string], { names: number }>('SELECT names_to_markers AS names FROM course WHERE id = ?')
  return function masked<T extends Named>(courseId: string, role: Role, students: T[]): T[] {
    if (sightOf(role).names === 'always' || setting.get(courseId)?.names) return students
    return students.map((s) => ({ ...s, name: s.candidate })).sort((a, b) => (a.candidate < b.candidate ? -1 : 1))
  }
}
