import type { AskedReading } from '#contract'
import { now, type Db } from '../../kernel/db/open'

/** Plain SQL of the readings that were asked for one by one. */
export function furtherQueries(db: Db) {
  const SELECT = `SELECT a.assessment_id AS assessmentId, a.student_id AS studentId, a.marker_id AS markerId, a.asked_because AS because,
      a.at AS askedAt, CASE r.state WHEN 'handed in' THEN 'handed in' WHEN 'draft' THEN 'begun' ELSE 'waiting' END AS state
    FROM allotment a JOIN assessment x ON x.id = a.assessment_id
    LEFT JOIN script s ON s.assessment_id = a.assessment_id AND s.student_id = a.student_id
    LEFT JOIN reading r ON r.script_id = s.id AND r.marker_id = a.marker_id
    WHERE a.asked_because IS NOT NULL`
  const all = db.prepare<[string], AskedReading>(`${SELECT} AND x.course_id = ? ORDER BY a.at, a.place`)
  const insert = db.prepare<[{ assessmentId: string; studentId: string; markerId: string; because: string; by: string; at: string }]>(`
    INSERT INTO allotment (assessment_id, student_id, marker_id, place, by_id, at, asked_because)
    VALUES (@assessmentId, @studentId, @markerId,
      (SELECT coalesce(max(place), -1) + 1 FROM allotment WHERE assessment_id = @assessmentId), @by, @at, @because)`)
  const takeBack = db.prepare<[string, string, string]>(
    'DELETE FROM allotment WHERE assessment_id = ? AND student_id = ? AND marker_id = ? AND asked_because IS NOT NULL',
  )
  return {
    all: (courseId: string) => all.all(courseId),
    ask(wanted: readonly { assessmentId: string; studentId: string; markerId: string }[], because: string, by: string): void {
      const at = now()
      for (const w of wanted) insert.run({ ...w, because, by, at })
    },
    takeBack: (assessmentId: string, studentId: string, markerId: string) => takeBack.run(assessmentId, studentId, markerId).changes > 0,
  }
}
