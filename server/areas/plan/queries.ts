import type { Db } from '../../kernel/db/open'
import type { AssessmentRow, ComponentRow } from '../../kernel/course/rows'

/** Plain SQL of components and assessments. Writes go on inside the caller's transaction. */
export function planQueries(db: Db) {
  const component = db.prepare<[string, string], ComponentRow>('SELECT * FROM component WHERE id = ? AND course_id = ?')
  const assessment = db.prepare<[string, string], AssessmentRow>('SELECT * FROM assessment WHERE id = ? AND course_id = ?')
  const marked = db.prepare<[string], { n: number }>(
    `SELECT count(*) AS n FROM script s WHERE s.assessment_id = ? AND (s.entered IS NOT NULL OR EXISTS (SELECT 1 FROM reading r WHERE r.script_id = s.id))`,
  )
  const inside = db.prepare<[string], { n: number; away: number }>(
    'SELECT count(*) AS n, coalesce(sum(away), 0) AS away FROM assessment WHERE component_id = ?',
  )
  const insertComponent = db.prepare(
    `INSERT INTO component (id, course_id, title, weight, combine, drop_lowest, bonus, position)
     VALUES (@id, @courseId, @title, @weight, @combine, @dropLowest, @bonus,
       (SELECT coalesce(max(position), -1) + 1 FROM component WHERE course_id = @courseId))`,
  )
  const removeComponent = db.prepare('DELETE FROM component WHERE id = ?')
  const insert = db.prepare(
    `INSERT INTO assessment (id, course_id, component_id, title, marking, out_of, worth, worth_follows, counts, position)
     VALUES (@id, @courseId, @componentId, @title, @marking, @outOf, @worth, @follows, @counts,
       (SELECT coalesce(max(position), -1) + 1 FROM assessment WHERE course_id = @courseId))`,
  )
  const setPosition = db.prepare('UPDATE assessment SET position = ? WHERE id = ? AND course_id = ?')
  const setGrades = db.prepare('UPDATE course SET boundaries = ?, conditions = ? WHERE id = ?')
  const setPolicy = db.prepare('UPDATE course SET policy = ? WHERE id = ?')
  return { component, assessment, marked, inside, insertComponent, removeComponent, insert, setPosition, setGrades, setPolicy }
}

/** Plain SQL of a plan that is written as a whole. Writes go on inside the caller's transaction. */
export function wholePlanQueries(db: Db) {
  const titles = db.prepare<[string], { id: string; title: string }>('SELECT id, title FROM component WHERE course_id = ?')
  const taken = db.prepare<[string, string], { id: string }>('SELECT id FROM assessment WHERE course_id = ? AND lower(title) = lower(?)')
  const insertComponent = db.prepare(
    `INSERT INTO component (id, course_id, title, weight, combine, position)
     VALUES (@id, @courseId, @title, @weight, 'byWorth', (SELECT coalesce(max(position), -1) + 1 FROM component WHERE course_id = @courseId))`,
  )
  const insertAssessment = db.prepare(
    `INSERT INTO assessment (id, course_id, component_id, title, marking, out_of, worth, worth_follows, counts, position)
     VALUES (@id, @courseId, @componentId, @title, 'direct', @outOf, @worth, @follows, @counts,
       (SELECT coalesce(max(position), -1) + 1 FROM assessment WHERE course_id = @courseId))`,
  )
  const setDue = db.prepare(
    'UPDATE placement SET due = ? WHERE assessment_id = ? AND section_id = ? AND section_id IN (SELECT id FROM section WHERE course_id = ?)',
  )
  const dropPlacements = db.prepare('DELETE FROM placement WHERE assessment_id = ?')
  const dropAssessment = db.prepare('DELETE FROM assessment WHERE id = ? AND course_id = ?')
  const dropComponent = db.prepare('DELETE FROM component WHERE id = ? AND course_id = ?')
  return { titles, taken, insertComponent, insertAssessment, setDue, dropPlacements, dropAssessment, dropComponent }
}

/** Plain SQL of sets of grades that are kept. Writes go on inside the caller's transaction. */
export function gradeSetQueries(db: Db) {
  const all = db.prepare<[], { id: string; name: string; grades: string; by: string; byId: string }>(
    'SELECT g.id, g.name, g.grades, p.name AS "by", g.by_id AS byId FROM grade_set g JOIN person p ON p.id = g.by_id ORDER BY g.name',
  )
  const insert = db.prepare('INSERT INTO grade_set (id, name, grades, by_id, at) VALUES (?, ?, ?, ?, ?)')
  const replace = db.prepare('UPDATE grade_set SET grades = ?, at = ? WHERE id = ?')
  const drop = db.prepare('DELETE FROM grade_set WHERE id = ?')
  return { all, insert, replace, drop }
}
