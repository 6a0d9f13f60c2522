import type { CoursePerson } from '#contract'
import type { Db } from '../../kernel/db/open'
import { HAS_COME, ONLY_A_STUDENT } from '../../kernel/access/people'

type PersonRow = Omit<CoursePerson, 'state' | 'teaches' | 'toRead'> & { teaches: string | null; active: 0 | 1; chosen: 0 | 1 }

interface Found {
  id: string
  name: string
  signIn: string
}

// A student of whatever course is found by their own lead, on the roll; by another one only who knows their sign-in or address.
const NOT_A_STUDENT = `NOT ${ONLY_A_STUDENT}`

/** Plain SQL of who is in a course, and as what. Writes go on inside the caller's transaction. */
export function coursePeopleQueries(db: Db) {
  const inCourse = db.prepare<[string], PersonRow>(
    `SELECT p.id, p.name, p.sign_in AS signIn, r.role, p.active, ${HAS_COME} AS chosen,
       (SELECT group_concat(s.name, '|') FROM section s WHERE s.course_id = r.course_id AND s.teacher_id = p.id) AS teaches
     FROM course_role r JOIN person p ON p.id = r.person_id WHERE r.course_id = ? AND r.role <> 'student'
     ORDER BY CASE r.role WHEN 'lead' THEN 0 WHEN 'external' THEN 1 ELSE 2 END, p.name`,
  )
  const toRead = db
    .prepare<[courseId: string, markerId: string], number>(
      `SELECT count(*) FROM allotment l JOIN assessment a ON a.id = l.assessment_id AND a.away = 0
         LEFT JOIN script x ON x.student_id = l.student_id AND x.assessment_id = l.assessment_id
         LEFT JOIN reading g ON g.script_id = x.id AND g.marker_id = l.marker_id
       WHERE a.course_id = ? AND l.marker_id = ? AND coalesce(g.state, '') <> 'handed in'`,
    )
    .pluck()
  const find = db.prepare<{ like: string; courseId: string }, Found>(
    `SELECT p.id, p.name, p.sign_in AS signIn FROM person p WHERE p.active = 1 AND (p.name LIKE @like ESCAPE '!' OR p.sign_in LIKE @like ESCAPE '!')
       AND ${NOT_A_STUDENT}
       AND NOT EXISTS (SELECT 1 FROM course_role r WHERE r.course_id = @courseId AND r.person_id = p.id) ORDER BY p.name LIMIT 20`,
  )
  const exactly = db.prepare<{ text: string }, Found>(
    // Each by its own index: asked for in one condition, everybody would be looked at.
    `SELECT p.id, p.name, p.sign_in AS signIn FROM person p WHERE p.active = 1 AND p.id IN (
       SELECT id FROM person WHERE sign_in = @text
       UNION SELECT id FROM person WHERE email = @text COLLATE NOCASE
       UNION SELECT p.id FROM person p WHERE p.name = @text COLLATE NOCASE AND ${NOT_A_STUDENT}) LIMIT 3`,
  )
  const roleOf = db.prepare<[string, string], { role: string }>('SELECT role FROM course_role WHERE course_id = ? AND person_id = ?')
  const leads = db.prepare<[string], { n: number }>(
    "SELECT count(*) AS n FROM course_role r JOIN person p ON p.id = r.person_id AND p.active = 1 WHERE r.course_id = ? AND r.role = 'lead'",
  )
  const setRole = db.prepare(
    'INSERT INTO course_role (course_id, person_id, role) VALUES (?, ?, ?) ON CONFLICT (course_id, person_id) DO UPDATE SET role = excluded.role',
  )
  const takeRole = db.prepare('DELETE FROM course_role WHERE course_id = ? AND person_id = ?')
  const teachesNone = db.prepare('UPDATE section SET teacher_id = NULL WHERE course_id = ? AND teacher_id = ?')
  const students = db.prepare<
    [string],
    {
      studentId: string
      name: string
      externalId: string | null
      signIn: string | null
      personId: string | null
      active: 0 | 1 | null
      chosen: 0 | 1 | null
    }
  >(
    `SELECT s.id AS studentId, s.name, s.external_id AS externalId, s.sign_in AS signIn, s.person_id AS personId, p.active, ${HAS_COME} AS chosen
     FROM student s LEFT JOIN person p ON p.id = s.person_id WHERE s.course_id = ?
       AND EXISTS (SELECT 1 FROM enrolment e WHERE e.student_id = s.id AND e.to_day IS NULL) ORDER BY s.name, s.id`,
  )
  const tie = db.prepare('UPDATE student SET person_id = ? WHERE id = ?')
  const tied = db.prepare<[string, string], { name: string }>('SELECT name FROM student WHERE course_id = ? AND person_id = ?')
  return { inCourse, toRead, find, exactly, roleOf, leads, setRole, takeRole, teachesNone, students, tie, tied }
}
