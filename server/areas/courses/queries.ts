import { ONLY_A_STUDENT } from '../../kernel/access/people'
import type { Db } from '../../kernel/db/open'

/** Plain SQL of all courses of an installation. Writes go on inside the caller's transaction. */
export function installedQueries(db: Db) {
  const all = db.prepare<[], { id: string; leads: string | null; bare: 0 | 1 }>(
    `SELECT c.id,
       (SELECT group_concat(p.name, '|') FROM course_role r JOIN person p ON p.id = r.person_id WHERE r.course_id = c.id AND r.role = 'lead') AS leads,
       NOT EXISTS (SELECT 1 FROM assessment a JOIN script s ON s.assessment_id = a.id WHERE a.course_id = c.id)
         AND NOT EXISTS (SELECT 1 FROM decision d WHERE d.course_id = c.id) AS bare
     FROM course c WHERE c.removed_at IS NULL ORDER BY c.first_day DESC, c.code`,
  )
  const person = db.prepare<[string], { name: string; mayLead: 0 | 1 }>(
    `SELECT p.name, p.active AND NOT ${ONLY_A_STUDENT} AS mayLead FROM person p WHERE p.id = ?`,
  )
  const lead = db.prepare(
    "INSERT INTO course_role (course_id, person_id, role) VALUES (?, ?, 'lead') ON CONFLICT (course_id, person_id) DO UPDATE SET role = 'lead'",
  )
  const isStudent = db.prepare<[string, string], { n: number }>(
    "SELECT count(*) AS n FROM course_role WHERE course_id = ? AND person_id = ? AND role = 'student'",
  )
  const setAway = db.prepare('UPDATE course SET away_at = ? WHERE id = ?')
  const remove = db.prepare("UPDATE course SET removed_at = ?, code = code || ' removed ' || substr(id, 1, 12) WHERE id = ?")
  const dropRoles = db.prepare('DELETE FROM course_role WHERE course_id = ?')
  const same = db.prepare<[string, string, string], { id: string }>('SELECT id FROM course WHERE code = ? AND term = ? AND id <> ?')
  const edit = db.prepare('UPDATE course SET code = ?, title = ?, term = ?, first_day = ?, last_day = ? WHERE id = ?')
  return { all, person, lead, isStudent, setAway, remove, dropRoles, same, edit }
}

/** Plain SQL of a course that is begun. Writes go on inside the caller's transaction. */
export function startQueries(db: Db) {
  const leads = db.prepare<[string], { n: number }>(
    `SELECT (SELECT count(*) FROM course_role WHERE person_id = p.id AND role = 'lead') + p.admin AS n FROM person p WHERE p.id = ?`,
  )
  const role = db.prepare<[string, string], { role: string }>(
    "SELECT role FROM course_role WHERE course_id = ? AND person_id = ? AND role = 'lead'",
  )
  const mayLead = db.prepare<[string, string], { id: string }>(
    `SELECT p.id FROM person p, person a WHERE p.id = ? AND p.active = 1 AND NOT ${ONLY_A_STUDENT} AND a.id = ? AND a.admin = 1`,
  )
  const same = db.prepare<[string, string], { id: string }>('SELECT id FROM course WHERE code = ? AND term = ?')
  const insert = db.prepare(
    'INSERT INTO course (id, code, title, term, first_day, last_day, policy, boundaries) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
  )
  const showOutcomes = db.prepare(
    `INSERT INTO outcome_shown (course_id, outcome_id, by_id, at)
     SELECT @id, outcome_id, @by, @at FROM outcome_shown WHERE course_id = @from`,
  )
  const setConditions = db.prepare('UPDATE course SET conditions = ? WHERE id = ?')
  const insertRole = db.prepare('INSERT INTO course_role (course_id, person_id, role) VALUES (?, ?, ?)')
  const copyRoles = db.prepare(
    `INSERT INTO course_role (course_id, person_id, role) SELECT ?, r.person_id, r.role FROM course_role r JOIN person p ON p.id = r.person_id
     WHERE r.course_id = ? AND r.person_id <> ? AND r.role <> 'student' AND p.active = 1`,
  )
  const insertSection = db.prepare(
    `INSERT INTO section (id, course_id, code, name, teacher_id, weekdays, first_day, position)
     SELECT @id, @courseId, code, name, CASE WHEN @people THEN teacher_id END, weekdays, @firstDay, position FROM section WHERE id = @of`,
  )
  const insertComponent = db.prepare(
    'INSERT INTO component (id, course_id, title, weight, combine, drop_lowest, bonus, position) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
  )
  return { leads, role, mayLead, same, insert, showOutcomes, setConditions, insertRole, copyRoles, insertSection, insertComponent }
}
