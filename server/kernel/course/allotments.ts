import { STATUSES, type Status } from '#core/grades'
import { appliesIn } from '#core/roll'
import type { Allotment } from '#core/share'
import { hasWork } from '#core/trial'
import type { CourseTable, ShareRule } from '#contract'
import { now, type Db } from '../db/open'

export interface AllottedRow {
  studentId: string
  markerId: string
  /** Null where nothing was kept yet. */
  state: 'draft' | 'handed in' | null
}

/** The unread scripts of who withdrew are in nobody's pile; they are again once the student is back. */
export const isOnRoll = (studentId: string) => `EXISTS (SELECT 1 FROM enrolment e WHERE e.student_id = ${studentId} AND e.to_day IS NULL)`

/** Plain SQL of who reads what. */
export function allotmentQueries(db: Db) {
  // Readings handed in that nobody was allotted are somebody's all the same; what somebody began of a script that is another's now is kept.
  const all = db.prepare<[{ assessment: string }], AllottedRow>(`
    SELECT a.student_id AS studentId, a.marker_id AS markerId, r.state FROM allotment a
    LEFT JOIN script s ON s.assessment_id = a.assessment_id AND s.student_id = a.student_id
    LEFT JOIN reading r ON r.script_id = s.id AND r.marker_id = a.marker_id WHERE a.assessment_id = @assessment
      AND (r.state = 'handed in' OR ${isOnRoll('a.student_id')})
    UNION ALL
    SELECT s.student_id, r.marker_id, r.state FROM script s JOIN reading r ON r.script_id = s.id AND r.state = 'handed in' WHERE s.assessment_id = @assessment
      AND NOT EXISTS (SELECT 1 FROM allotment a WHERE a.assessment_id = s.assessment_id AND a.student_id = s.student_id AND a.marker_id = r.marker_id)`)
  const withdrawn = db
    .prepare<[string], number>(
      `SELECT count(*) FROM allotment a LEFT JOIN script s ON s.assessment_id = a.assessment_id AND s.student_id = a.student_id
       LEFT JOIN reading r ON r.script_id = s.id AND r.marker_id = a.marker_id
       WHERE a.assessment_id = ? AND coalesce(r.state, '') <> 'handed in' AND NOT ${isOnRoll('a.student_id')}`,
    )
    .pluck()
  // Of scripts read twice, how far two readings of one are off: half of the mean squared distance is the variance of one.
  const errorOf = db
    .prepare<[string], number | null>(
      `SELECT avg(d * d) / 2 FROM (SELECT max(r.mark) - min(r.mark) AS d FROM script s JOIN reading r ON r.script_id = s.id AND r.state = 'handed in'
       WHERE s.assessment_id = ? GROUP BY s.id HAVING count(*) = 2)`,
    )
    .pluck()
  const clear = db.prepare<[{ assessment: string; moved: string }]>(`
    DELETE FROM allotment WHERE assessment_id = @assessment AND (asked_because IS NULL OR marker_id IN (SELECT value FROM json_each(@moved))) AND NOT EXISTS (
      SELECT 1 FROM script s JOIN reading r ON r.script_id = s.id
      WHERE s.assessment_id = allotment.assessment_id AND s.student_id = allotment.student_id AND r.marker_id = allotment.marker_id
        AND (r.state = 'handed in' OR r.marker_id NOT IN (SELECT value FROM json_each(@moved))))`)
  const insert = db.prepare(
    'INSERT INTO allotment (assessment_id, student_id, marker_id, place, by_id, at) VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING',
  )
  const inOrder = db.prepare<[string], { scriptId: string; markerId: string }>(
    'SELECT student_id AS scriptId, marker_id AS markerId FROM allotment WHERE assessment_id = ? ORDER BY place',
  )
  const remember = db.prepare('INSERT INTO shared_out (assessment_id, by_id, at, before, rule, wanted_before) VALUES (?, ?, ?, ?, ?, ?)')
  const latest = db.prepare<[string], { id: number; before: string; rule: string | null; wantedBefore: number | null }>(
    'SELECT id, before, rule, wanted_before AS wantedBefore FROM shared_out WHERE assessment_id = ? AND taken_back_at IS NULL ORDER BY id DESC LIMIT 1',
  )
  const takenBack = db.prepare('UPDATE shared_out SET taken_back_at = ? WHERE id = ?')
  const markers = db.prepare<[string], { id: string; name: string }>(
    `SELECT p.id, p.name FROM course_role c JOIN person p ON p.id = c.person_id WHERE c.course_id = ? AND c.role = 'marker' AND p.active = 1 ORDER BY p.name`,
  )
  const taught = db.prepare<[string], { id: string; name: string; teacherId: string }>(
    'SELECT id, name, teacher_id AS teacherId FROM section WHERE course_id = ? AND teacher_id IS NOT NULL ORDER BY position',
  )
  const deadlines = db.prepare<[string], { markerId: string; due: string }>(
    'SELECT marker_id AS markerId, due FROM marking_deadline WHERE assessment_id = ?',
  )
  const setDeadline = db.prepare(
    'INSERT INTO marking_deadline (assessment_id, marker_id, due) VALUES (?, ?, ?) ON CONFLICT DO UPDATE SET due = excluded.due',
  )
  const dropDeadline = db.prepare('DELETE FROM marking_deadline WHERE assessment_id = ? AND marker_id = ?')
  const wanted = db.prepare<[string], { n: number }>('SELECT readings_wanted AS n FROM assessment WHERE id = ?')
  const want = db.prepare(
    'UPDATE assessment SET readings_wanted = @n, version = version + 1 WHERE id = @assessment AND readings_wanted <> @n',
  )
  const put = (assessmentId: string, allotments: readonly Allotment[], by: string, moved: readonly string[] = []) => {
    clear.run({ assessment: assessmentId, moved: JSON.stringify(moved) })
    const at = now()
    allotments.forEach((a, place) => insert.run(assessmentId, a.scriptId, a.markerId, place, by, at))
  }
  return {
    all: (assessmentId: string) => all.all({ assessment: assessmentId }),
    withdrawn: (assessmentId: string) => withdrawn.get(assessmentId)!,
    /** Sd of one reading, in marks; null where no script was read twice. */
    errorOf(assessmentId: string): number | null {
      const variance = errorOf.get(assessmentId) ?? null
      return variance === null ? null : Math.sqrt(variance)
    },
    /**
     * Shares out anew: what is done stays, and what is begun unless its marker's is moved; the rest goes to whoever is given it, in
     * the order given. A mark then waits for as many readings as are wanted.
     */
    share(assessmentId: string, allotments: readonly Allotment[], readingsWanted: number, rule: ShareRule, by: string): void {
      const before = inOrder.all(assessmentId).map((a) => [a.scriptId, a.markerId])
      remember.run(assessmentId, by, now(), JSON.stringify(before), JSON.stringify(rule), wanted.get(assessmentId)!.n)
      put(assessmentId, allotments, by, rule.moveBegun)
      want.run({ assessment: assessmentId, n: readingsWanted })
    },
    latest(assessmentId: string): { id: number; rule: ShareRule | null } | null {
      const last = latest.get(assessmentId)
      return last ? { id: last.id, rule: last.rule === null ? null : (JSON.parse(last.rule) as ShareRule) } : null
    },
    /** Takes the last sharing out back. @returns false where it is not the one that is meant */
    takeBack(assessmentId: string, sharingId: number, by: string): boolean {
      const last = latest.get(assessmentId)
      if (last?.id !== sharingId) return false
      const before = JSON.parse(last.before) as [string, string][]
      put(
        assessmentId,
        before.map(([scriptId, markerId]) => ({ scriptId, markerId })),
        by,
      )
      if (last.wantedBefore !== null) want.run({ assessment: assessmentId, n: last.wantedBefore })
      takenBack.run(now(), sharingId)
      return true
    },
    markers: (courseId: string) => markers.all(courseId),
    taught: (courseId: string) => taught.all(courseId),
    deadlines: (assessmentId: string) => new Map(deadlines.all(assessmentId).map((d) => [d.markerId, d.due])),
    setDeadline(assessmentId: string, markerId: string, due: string | null): void {
      if (due === null) dropDeadline.run(assessmentId, markerId)
      else setDeadline.run(assessmentId, markerId, due)
    },
  }
}

/** The students whose work for an assessment is there to be read. */
export function readable(table: Omit<CourseTable, 'head'>, assessmentId: string): CourseTable['students'] {
  const applies = appliesIn(table)
  const { scripts } = table
  const status = new Map<number, Status>()
  scripts.assessment.forEach((a, i) => {
    if (table.assessments[a]!.id === assessmentId) status.set(scripts.student[i]!, STATUSES[scripts.status[i]!]!)
  })
  return table.students.filter((s, i) => applies(s.id, assessmentId) && hasWork(status.get(i) ?? 'in'))
}
