import type { Note, NoteAbout } from '#contract'
import { now, type Db } from '../../kernel/db/open'

interface Row {
  id: string
  about: NoteAbout['kind']
  aboutId: string
  assessmentId: string | null
  by: string
  words: string
  at: string
  answer: string | null
  answeredBy: string | null
  answeredAt: string | null
}

/** Where each kind of thing that a note is about is found in a course. */
const THERE: Record<NoteAbout['kind'], string> = {
  section: 'SELECT 1 FROM section WHERE id = @id AND course_id = @course',
  marker: `SELECT 1 FROM course_role WHERE person_id = @id AND course_id = @course AND role = 'marker'
    UNION SELECT 1 FROM reading r JOIN script s ON s.id = r.script_id JOIN assessment a ON a.id = s.assessment_id
      WHERE r.marker_id = @id AND a.course_id = @course`,
  script: 'SELECT 1 FROM script s JOIN assessment a ON a.id = s.assessment_id WHERE s.id = @id AND a.course_id = @course',
  decision: 'SELECT 1 FROM decision WHERE id = @id AND course_id = @course',
}

/** Plain SQL of notes. */
export function noteQueries(db: Db) {
  const SELECT = `SELECT n.id, n.about, n.about_id AS aboutId, n.assessment_id AS assessmentId, p.name AS "by", n.words, n.at, n.answer,
      q.name AS answeredBy, n.answered_at AS answeredAt
    FROM note n JOIN person p ON p.id = n.by_id LEFT JOIN person q ON q.id = n.answered_by WHERE n.course_id = ?`
  const all = db.prepare<[string], Row>(`${SELECT} ORDER BY n.at DESC, n.rowid DESC`)
  const one = db.prepare<[string, string], Row>(`${SELECT} AND n.id = ?`)
  const there = Object.fromEntries(
    Object.entries(THERE).map(([kind, sql]) => [kind, db.prepare<[{ id: string; course: string }]>(sql)]),
  ) as Record<NoteAbout['kind'], ReturnType<typeof db.prepare<[{ id: string; course: string }]>>>
  const inCourse = db.prepare<[string, string]>('SELECT 1 FROM assessment WHERE id = ? AND course_id = ?')
  const insert = db.prepare(
    'INSERT INTO note (id, course_id, about, about_id, assessment_id, by_id, words, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)',
  )
  const answer = db.prepare('UPDATE note SET answer = ?, answered_by = ?, answered_at = ? WHERE id = ?')
  return {
    all: (courseId: string) => all.all(courseId).map(toNote),
    one(courseId: string, id: string): Note | null {
      const row = one.get(courseId, id)
      return row ? toNote(row) : null
    },
    isThere: (course: string, { kind, id, assessmentId }: NoteAbout): boolean =>
      there[kind].get({ id, course }) !== undefined && (assessmentId === null || inCourse.get(assessmentId, course) !== undefined),
    leave({ id, courseId, about, words, by }: { id: string; courseId: string; about: NoteAbout; words: string; by: string }): void {
      insert.run(id, courseId, about.kind, about.id, about.assessmentId, by, words, now())
    },
    answer: (id: string, words: string, by: string) => void answer.run(words, by, now(), id),
  }
}

const toNote = ({ about, aboutId, assessmentId, answer, answeredBy, answeredAt, ...row }: Row): Note => ({
  ...row,
  about: { kind: about, id: aboutId, assessmentId },
  answer: answer === null ? null : { words: answer, by: answeredBy!, at: answeredAt! },
})
