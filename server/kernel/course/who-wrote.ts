import { group } from 'd3-array'
import type { MarkWriter } from '#core/issues'
import type { Db } from '../db/open'

interface Written extends MarkWriter {
  studentId: string
  assessment: string
}

const WRITES = `
  SELECT s.student_id AS studentId, a.title AS assessment, p.name AS who, 'typed' AS did, w.at
  FROM script_state w JOIN script s ON s.id = w.script_id JOIN assessment a ON a.id = s.assessment_id JOIN person p ON p.id = w.by_id
  WHERE a.course_id = @courseId AND w.at > @after AND w.at <= @until
  UNION ALL
  SELECT s.student_id, a.title, p.name, 'read', w.at
  FROM reading_state w JOIN reading r ON r.id = w.reading_id JOIN script s ON s.id = r.script_id
    JOIN assessment a ON a.id = s.assessment_id JOIN person p ON p.id = r.marker_id
  WHERE a.course_id = @courseId AND w.state = 'handed in' AND w.at > @after AND w.at <= @until
  UNION ALL
  SELECT s.student_id, a.title, p.name, 'settled', d.made_at
  FROM agreed_mark g JOIN decision d ON d.id = g.decision_id JOIN script s ON s.id = g.script_id
    JOIN assessment a ON a.id = s.assessment_id JOIN person p ON p.id = d.made_by
  WHERE a.course_id = @courseId AND d.made_at > @after AND d.made_at <= @until
  UNION ALL
  SELECT s.student_id, a.title, p.name, 'took back', d.withdrawn_at
  FROM agreed_mark g JOIN decision d ON d.id = g.decision_id JOIN script s ON s.id = g.script_id
    JOIN assessment a ON a.id = s.assessment_id JOIN person p ON p.id = d.withdrawn_by
  WHERE a.course_id = @courseId AND d.withdrawn_at > @after AND d.withdrawn_at <= @until
  ORDER BY 5`

/** Who wrote what the marks of a course came of between two moments: each once, with the last time that they did it. */
export function whoWrote(
  db: Db,
  of: { courseId: string; after: string; until: string },
): (studentId: string, assessment: string) => MarkWriter[] {
  const rows = db.prepare<[typeof of], Written>(WRITES).all(of)
  const byMark = group(rows, (r) => `${r.studentId} ${r.assessment}`)
  return (studentId, assessment) => {
    const own = byMark.get(`${studentId} ${assessment}`) ?? []
    return [...new Map(own.map(({ who, did, at }) => [`${who} ${did}`, { who, did, at }])).values()]
  }
}
