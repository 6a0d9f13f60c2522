import type { Role } from '#contract'
import type { Db } from '../db/open'

interface Named {
  id: string
  name: string
  candidate: string
}

/**
 * Puts candidate numbers in the place of names for who may not see names in a course, and in the order of
 * numbers, since an order by name tells names too. Where names may be seen, those whose work this marker has
 * yet to read blind are called by their numbers all the same: name and number side by side would tell whose script it is.
 */
export function namesFor(db: Db) {
  const setting = db.prepare<[string], { names: number }>('SELECT names_to_markers AS names FROM course WHERE id = ?')
  const blind = db.prepare<[string, string], { id: string }>(
    `SELECT DISTINCT a.student_id AS id FROM allotment a JOIN assessment x ON x.id = a.assessment_id
     WHERE x.course_id = ? AND x.blind = 1 AND x.away = 0 AND a.marker_id = ? AND NOT EXISTS (
       SELECT 1 FROM script s JOIN reading r ON r.script_id = s.id AND r.marker_id = a.marker_id AND r.state = 'handed in'
       WHERE s.assessment_id = a.assessment_id AND s.student_id = a.student_id)`,
  )
  return function masked<T extends Named>(courseId: string, personId: string, role: Role, students: T[]): T[] {
    if (role !== 'marker') return students
    const byNumber = (list: T[]) => list.map((s) => ({ ...s, name: s.candidate })).sort((a, b) => (a.candidate < b.candidate ? -1 : 1))
    if (!setting.get(courseId)?.names) return byNumber(students)
    const readBlind = new Set(blind.all(courseId, personId).map((s) => s.id))
    return [...students.filter((s) => !readBlind.has(s.id)), ...byNumber(students.filter((s) => readBlind.has(s.id)))]
  }
}
