import type { Status } from '#core/grades'
import type { Stay } from '#core/roll'
import type { Db } from '../../kernel/db/open'
import type { CellState } from '#contract'
import type { ChangedCell } from './marks-file'

export interface ScriptRow {
  id: string
  status: Status
  days_late: number
  entered: number | null
  remark: string
  version: number
  readings: number
}

/** Plain SQL of the mark sheet, as it is seen. */
export function sheetQueries(db: Db) {
  const followed = db.prepare<[string], { assessmentId: string; outcome: string }>(
    `SELECT b.assessment_id AS assessmentId, o.title AS outcome FROM by_standing b JOIN standard o ON o.id = b.outcome_id
     JOIN assessment a ON a.id = b.assessment_id WHERE a.course_id = ?`,
  )
  const taught = db.prepare<[string, string], { id: string }>('SELECT id FROM section WHERE course_id = ? AND teacher_id = ?')
  const readBlind = db.prepare<[string], { id: string }>('SELECT id FROM assessment WHERE course_id = ? AND blind = 1')
  const scale = db.prepare<[string], { body: string }>("SELECT body FROM standard WHERE id = ? AND kind = 'scale'")
  return {
    /** Assessments that are marked by where students stand, with the outcome. */
    followedIn: (courseId: string) => new Map(followed.all(courseId).map((f) => [f.assessmentId, f.outcome])),
    taught,
    readBlind,
    scale,
  }
}

/** Plain SQL of single cells, as they are written inside the caller's transaction. */
export function cellQueries(db: Db) {
  const script = db.prepare<[string, string], ScriptRow>(
    `SELECT s.id, s.status, s.days_late, s.entered, s.remark, s.version, (SELECT count(*) FROM reading r WHERE r.script_id = s.id) AS readings
     FROM script s WHERE s.student_id = ? AND s.assessment_id = ?`,
  )
  const student = db.prepare<[string, string], { id: string; sectionId: string }>(
    `SELECT s.id, e.section_id AS sectionId FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL
     WHERE s.id = ? AND s.course_id = ?`,
  )
  const staysOf = db.prepare<[string], Stay>(
    'SELECT section_id AS sectionId, from_day AS "from", to_day AS "to" FROM enrolment WHERE student_id = ? ORDER BY from_day',
  )
  const insert = db.prepare(
    'INSERT INTO script (id, student_id, assessment_id, status, days_late, entered, remark) VALUES (?, ?, ?, ?, ?, ?, ?)',
  )
  const update = db.prepare('UPDATE script SET status = ?, days_late = ?, entered = ?, remark = ?, version = version + 1 WHERE id = ?')
  const keep = db.prepare(
    'INSERT INTO script_state (script_id, version, status, days_late, entered, by_id, at, remark) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
  )
  const lastBy = db.prepare<[string], { by: string }>(
    'SELECT by_id AS by FROM script_state WHERE script_id = ? ORDER BY version DESC LIMIT 1',
  )
  return { script, student, staysOf, insert, update, keep, lastBy }
}

/** Plain SQL of marks as files have them. */
export function markingQueries(db: Db) {
  const externals = db.prepare<[string], { id: string; candidate: string; externalId: string | null }>(
    'SELECT id, candidate, external_id AS externalId FROM student WHERE course_id = ?',
  )
  const remarks = db
    .prepare<[string], [string, string]>(
      `SELECT s.student_id || ' ' || s.assessment_id, s.remark FROM script s JOIN student t ON t.id = s.student_id
       WHERE t.course_id = ? AND s.remark <> ''`,
    )
    .raw()
  // From what changed since, which is little as a rule, and not from every script of the course.
  const since = db.prepare<[{ course: string; asOf: string }], ChangedCell>(
    `SELECT s.student_id AS studentId, s.assessment_id AS assessmentId, b.status, b.days_late AS daysLate, b.entered AS mark,
       (SELECT p.name FROM script_state l JOIN person p ON p.id = l.by_id WHERE l.script_id = s.id ORDER BY l.version DESC LIMIT 1) AS "by"
     FROM (SELECT DISTINCT y.script_id FROM script_state y INDEXED BY script_state_by_time WHERE y.at > @asOf) c
       CROSS JOIN script s ON s.id = c.script_id JOIN student t ON t.id = s.student_id LEFT JOIN script_state b ON b.script_id = s.id
       AND b.version = (SELECT max(x.version) FROM script_state x WHERE x.script_id = s.id AND x.at <= @asOf)
     WHERE t.course_id = @course`,
  )
  const mailed = db.prepare<[string], { candidate: string; mail: string }>(
    `SELECT s.candidate, coalesce(p.email, s.sign_in) AS mail FROM student s LEFT JOIN person p ON p.id = s.person_id
     WHERE s.course_id = ? AND coalesce(p.email, s.sign_in) LIKE '%_@_%'`,
  )
  const script = db.prepare<
    [string, string],
    {
      id: string
      assessment_id: string
      status: Status
      days_late: number
      entered: number | null
      remark: string
      came_at: string | null
      student: string
      name: string
      candidate: string
      section: string
    }
  >(`SELECT s.id, s.assessment_id, s.status, s.days_late, s.entered, s.remark, s.came_at, t.id AS student, t.name, t.candidate, coalesce(e.section_id, '') AS section
     FROM script s JOIN student t ON t.id = s.student_id LEFT JOIN enrolment e ON e.student_id = t.id AND e.to_day IS NULL
     WHERE s.id = ? AND t.course_id = ?`)
  const readings = db.prepare<
    [string],
    {
      id: string
      markerId: string
      marker: string
      mark: number
      picks: string
      madeMark: number | null
      judgement: string | null
      comment: string
      criterion_comments: string
      notes: string
      handedInAt: string
      afterSeeing: 0 | 1
    }
  >(`SELECT r.id, r.marker_id AS markerId, p.name AS marker, coalesce(c.mark, r.mark) AS mark, coalesce(c.picks, r.picks) AS picks,
       CASE WHEN c.reading_id IS NULL THEN NULL ELSE r.mark END AS madeMark, r.judgement, r.comment, r.criterion_comments, r.notes, r.handed_in_at AS handedInAt,
       r.after_seeing AS afterSeeing
     FROM reading r JOIN person p ON p.id = r.marker_id LEFT JOIN carried_in_force c ON c.reading_id = r.id AND c.version = r.version WHERE r.script_id = ? AND r.state = 'handed in' ORDER BY r.handed_in_at, r.rowid`)
  const history = db.prepare<[string], CellState>(
    `SELECT h.at, p.name AS by, h.entered AS mark, h.status, h.days_late AS daysLate, h.remark FROM script_state h JOIN person p ON p.id = h.by_id
     WHERE h.script_id = ? ORDER BY h.version DESC`,
  )
  const cell = db.prepare<[string, string, string], { id: string; teacherId: string | null }>(
    `SELECT s.id, x.teacher_id AS teacherId FROM script s JOIN student t ON t.id = s.student_id
     LEFT JOIN enrolment e ON e.student_id = t.id AND e.to_day IS NULL LEFT JOIN section x ON x.id = e.section_id
     WHERE s.student_id = ? AND s.assessment_id = ? AND t.course_id = ?`,
  )
  return { externals, remarks, since, mailed, script, readings, history, cell }
}
