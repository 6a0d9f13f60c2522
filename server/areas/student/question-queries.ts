import { randomUUID } from 'node:crypto'
import type { OwnAsking, Question } from '#contract'
import { now, type Db } from '../../kernel/db/open'

type Own = OwnAsking['questions'][number]
interface Row {
  id: string
  about: string | null
  reason: string
  at: string
  markThen: number | null
  words: string | null
  answeredAt: string | null
}
interface WholeRow
  extends Row, Pick<Question, 'studentId' | 'assessmentId' | 'scriptId' | 'assessment' | 'outOf' | 'answeredBy' | 'section'> {
  name: string
  candidate: string
  teacherId: string | null
}

const OWN = 'q.id, q.about, q.reason, q.at, q.mark_then AS markThen, q.answer AS words, q.answered_at AS answeredAt'
const ownOf = ({ id, about, reason, at, markThen, words, answeredAt }: Row): Own => ({
  id,
  about,
  reason,
  at,
  markThen,
  answer: words === null ? null : { words, at: answeredAt! },
})

/** Plain SQL of what students asked about marks. */
export function questionQueries(db: Db) {
  const ofScript = db.prepare<[string], Row>(`SELECT ${OWN} FROM mark_question q WHERE q.script_id = ? ORDER BY q.at, q.rowid`)
  // Begins with the questions, which are few (CROSS JOIN keeps that order), and not with every script of the course.
  const all = db.prepare<[string], WholeRow>(
    `SELECT ${OWN}, x.student_id AS studentId, x.assessment_id AS assessmentId, x.id AS scriptId, a.title AS assessment, a.out_of AS outOf,
       p.name AS answeredBy, s.name, s.candidate, c.name AS section, c.teacher_id AS teacherId
     FROM mark_question q CROSS JOIN script x ON x.id = q.script_id JOIN assessment a ON a.id = x.assessment_id JOIN student s ON s.id = x.student_id
       JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL JOIN section c ON c.id = e.section_id
       LEFT JOIN person p ON p.id = q.answered_by
     WHERE a.course_id = ? ORDER BY q.answer IS NOT NULL, q.at DESC, q.rowid DESC`,
  )
  const insert = db.prepare(
    `INSERT INTO mark_question (id, script_id, criterion_id, about, reason, mark_then, at)
     VALUES (@id, @scriptId, @criterionId, @about, @reason, @markThen, @at)`,
  )
  const answer = db.prepare('UPDATE mark_question SET answer = ?, answered_by = ?, answered_at = ? WHERE id = ? AND answer IS NULL')
  // When what stands was typed, read or agreed on last.
  const marked = db
    .prepare<[{ script: string }], string | null>(
      `SELECT max(at) FROM (
         SELECT max(at) AS at FROM script_state WHERE script_id = @script
         UNION ALL SELECT max(handed_in_at) FROM reading WHERE script_id = @script AND state = 'handed in'
         UNION ALL SELECT d.made_at FROM agreed_mark g JOIN decision d ON d.id = g.decision_id WHERE g.script_id = @script AND g.in_force = 1)`,
    )
    .pluck()
  return {
    ofScript: (scriptId: string): Own[] => ofScript.all(scriptId).map(ownOf),
    all: (courseId: string) => all.all(courseId).map((row) => ({ ...row, own: ownOf(row) })),
    ask(of: { scriptId: string; criterionId: string | null; about: string | null; reason: string; markThen: number | null }): void {
      insert.run({ ...of, id: randomUUID(), at: now() })
    },
    /** @returns false where somebody answered it before */
    answer: (id: string, words: string, byId: string): boolean => answer.run(words, byId, now(), id).changes > 0,
    markedAt: (scriptId: string): string | null => marked.get({ script: scriptId }) ?? null,
  }
}
