import type { Db } from '../server/kernel/db/open'
import { LEAD_ID } from './department'

interface Asked {
  id: string
  scriptId: string
  criterion: readonly [id: string, title: string] | null
  reason: string
  at: string
  answer?: string
}

/** What students of the course see and may do, and two questions about marks: one answered, one that waits. */
export function writeStudentView(db: Db, courseId: string): void {
  db.prepare('INSERT INTO student_view (course_id, so_far, ask_days) VALUES (?, 1, 21)').run(courseId)
  db.prepare('INSERT INTO handed_in_here (assessment_id) VALUES (?)').run(`${courseId}-map`)
  const own = db.prepare<[string], string>('SELECT id FROM student WHERE course_id = ? AND person_id IS NOT NULL').pluck().get(courseId)!
  const another = db
    .prepare<[string, string], string>(
      `SELECT x.id FROM script x JOIN student s ON s.id = x.student_id JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL
         JOIN section c ON c.id = e.section_id JOIN reading r ON r.script_id = x.id
       WHERE x.assessment_id = ? AND x.student_id <> ? AND c.teacher_id IS NOT NULL AND x.status = 'in' ORDER BY x.id LIMIT 1`,
    )
    .pluck()
    .get(`${courseId}-field-book-2`, own)!
  db.prepare('INSERT INTO code_name (student_id, course_id, name) VALUES (?, ?, ?)').run(own, courseId, 'plover')
  const asked: Asked[] = [
    {
      id: 'question-1',
      scriptId: `${courseId}-field-book-1:${own}`,
      criterion: ['sketches', 'Sketches'],
      reason: 'The north point is on the second sheet, not on the first. Was the second sheet looked at?',
      at: '2026-10-14T18:20:00.000Z',
      answer: 'It was, and the north point counted. What is missing is the distance to the bolt, on both sheets.',
    },
    {
      id: 'question-2',
      scriptId: another,
      criterion: ['reduction', 'Reduction'],
      reason: 'The sums close on page 14, after the correction in red. I think only page 12 was read.',
      at: '2026-11-25T20:05:00.000Z',
    },
  ]
  const insert = db.prepare(
    `INSERT INTO mark_question (id, script_id, criterion_id, about, reason, mark_then, at, answer, answered_by, answered_at)
     VALUES (@id, @scriptId, @criterionId, @about, @reason, (SELECT mark FROM reading WHERE script_id = @scriptId), @at, @answer, @by, @answeredAt)`,
  )
  for (const { id, scriptId, criterion, reason, at, answer = null } of asked)
    insert.run({
      id,
      scriptId,
      criterionId: criterion?.[0] ?? null,
      about: criterion?.[1] ?? null,
      reason,
      at,
      answer,
      by: answer && LEAD_ID,
      answeredAt: answer && '2026-10-16T08:40:00.000Z',
    })
}
