import type { LineList } from '#contract'
import { isOnRoll } from '../../kernel/course/allotments'
import type { Db } from '../../kernel/db/open'

interface Row {
  id: string
  grade: string
  by: string
  at: string
  closedAt: string | null
  students: number
}

/** Who withdrew is judged no more; what was said of them stays. */
const ON_ROLL = isOnRoll('s.student_id')

/** Plain SQL of lists near a line and of what their judges say. Writes go on inside the caller's transaction. */
export function lineListQueries(db: Db) {
  return {
    lists: db.prepare<[string], Row>(
      `SELECT l.id, l.grade, p.name AS "by", l.at, l.closed_at AS closedAt, (SELECT count(*) FROM line_list_student s WHERE s.list_id = l.id AND (l.closed_at IS NOT NULL OR ${ON_ROLL})) AS students
     FROM line_list l JOIN person p ON p.id = l.by_id WHERE l.course_id = ? ORDER BY l.at DESC, l.rowid DESC`,
    ),
    judges: db.prepare<[string], LineList['judges'][number]>(
      `SELECT p.id, p.name, (SELECT count(*) FROM line_judgement s WHERE s.list_id = j.list_id AND s.person_id = j.person_id
       AND (l.closed_at IS NOT NULL OR ${ON_ROLL})) AS judged
     FROM line_list_judge j JOIN line_list l ON l.id = j.list_id JOIN person p ON p.id = j.person_id WHERE j.list_id = ? ORDER BY p.name`,
    ),
    judgements: db.prepare<[string], { studentId: string; able: 0 | 1 }>(
      'SELECT student_id AS studentId, able FROM line_judgement WHERE list_id = ? ORDER BY student_id, able',
    ),
    insert: db.prepare('INSERT INTO line_list (id, course_id, grade, by_id, at) VALUES (?, ?, ?, ?, ?)'),
    insertStudent: db.prepare('INSERT INTO line_list_student (list_id, student_id, place) VALUES (?, ?, ?)'),
    insertJudge: db.prepare('INSERT INTO line_list_judge (list_id, person_id) VALUES (?, ?)'),
    close: db.prepare('UPDATE line_list SET closed_at = ? WHERE id = ? AND course_id = ? AND closed_at IS NULL'),
    onRoll: db.prepare<[string, string], object>(
      'SELECT 1 FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL WHERE s.id = ? AND s.course_id = ?',
    ),
    isStaff: db.prepare<[string, string], object>("SELECT 1 FROM course_role WHERE person_id = ? AND course_id = ? AND role <> 'student'"),
    open: db.prepare<[string, string], { id: string; grade: string }>(
      `SELECT l.id, l.grade FROM line_list l JOIN line_list_judge j ON j.list_id = l.id
     WHERE l.course_id = ? AND j.person_id = ? AND l.closed_at IS NULL ORDER BY l.at`,
    ),
    toJudge: db.prepare<[string, string], { number: number; able: 0 | 1 | null }>(
      `SELECT s.place + 1 AS number, x.able FROM line_list_student s
     LEFT JOIN line_judgement x ON x.list_id = s.list_id AND x.student_id = s.student_id AND x.person_id = ?
     WHERE s.list_id = ? AND ${ON_ROLL} ORDER BY s.place`,
    ),
    numbers: db.prepare<[string, string], { number: number; candidate: string; name: string; section: string }>(
      `SELECT s.place + 1 AS number, st.candidate, st.name, x.name AS section FROM line_list l JOIN line_list_student s ON s.list_id = l.id
     JOIN student st ON st.id = s.student_id JOIN enrolment e ON e.student_id = st.id AND e.to_day IS NULL JOIN section x ON x.id = e.section_id
     WHERE l.id = ? AND l.course_id = ? ORDER BY s.place`,
    ),
    // What they have yet to read is read as any other, and not known from here.
    works: db.prepare<{ studentId: string; courseId: string; personId: string }, { assessment: string; text: string }>(
      `SELECT a.title AS assessment, s.text FROM script s JOIN assessment a ON a.id = s.assessment_id
     WHERE s.student_id = @studentId AND a.course_id = @courseId AND a.away = 0 AND s.text IS NOT NULL
       AND NOT EXISTS (SELECT 1 FROM allotment l WHERE l.assessment_id = a.id AND l.student_id = s.student_id AND l.marker_id = @personId
         AND NOT EXISTS (SELECT 1 FROM reading r WHERE r.script_id = s.id AND r.marker_id = @personId AND r.state = 'handed in'))
     ORDER BY a.position`,
    ),
    at: db
      .prepare<[string, number], string>(`SELECT student_id FROM line_list_student s WHERE list_id = ? AND place = ? - 1 AND ${ON_ROLL}`)
      .pluck(),
    say: db.prepare(
      `INSERT INTO line_judgement (list_id, student_id, person_id, able, at) VALUES (?, ?, ?, ?, ?)
     ON CONFLICT DO UPDATE SET able = excluded.able, at = excluded.at`,
    ),
    takeBack: db.prepare('DELETE FROM line_judgement WHERE list_id = ? AND student_id = ? AND person_id = ?'),
  }
}
