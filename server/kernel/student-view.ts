import type { StudentView, StudentViewChange } from '#contract'
import type { Db } from './db/open'
import { writing } from './db/transactions'

/** Plain SQL of what students of a course see beyond their released marks, and may do. */
export function studentViews(db: Db) {
  const row = db.prepare<[string], { soFar: number; askDays: number | null }>(
    'SELECT so_far AS soFar, ask_days AS askDays FROM student_view WHERE course_id = ?',
  )
  const handedIn = db
    .prepare<[string], string>(
      `SELECT h.assessment_id FROM handed_in_here h JOIN assessment a ON a.id = h.assessment_id
       WHERE a.course_id = ? AND a.away = 0 ORDER BY a.position`,
    )
    .pluck()
  const begin = db.prepare('INSERT INTO student_view (course_id) VALUES (?) ON CONFLICT DO NOTHING')
  const setSoFar = db.prepare('UPDATE student_view SET so_far = ? WHERE course_id = ?')
  const setAskDays = db.prepare('UPDATE student_view SET ask_days = ? WHERE course_id = ?')
  const takeIn = db.prepare('INSERT INTO handed_in_here (assessment_id) VALUES (?) ON CONFLICT DO NOTHING')
  const takeNoMore = db.prepare('DELETE FROM handed_in_here WHERE assessment_id = ?')
  return {
    of(courseId: string): StudentView {
      const { soFar = 0, askDays = null } = row.get(courseId) ?? {}
      return { soFar: soFar === 1, askDays, handIn: handedIn.all(courseId) }
    },
    /** The same for a course that is started from another. @param became what each of its assessments is there */
    copy(from: string, to: string, became: ReadonlyMap<string, string>): void {
      const { soFar, askDays, handIn } = this.of(from)
      this.set(to, { soFar })
      this.set(to, { askDays })
      for (const id of handIn) if (became.has(id)) this.set(to, { assessmentId: became.get(id)!, handedIn: true })
    },
    set: (courseId: string, change: StudentViewChange): void =>
      writing(db, () => {
        begin.run(courseId)
        if ('soFar' in change) setSoFar.run(change.soFar ? 1 : 0, courseId)
        else if ('askDays' in change) setAskDays.run(change.askDays, courseId)
        else (change.handedIn ? takeIn : takeNoMore).run(change.assessmentId)
      }),
  }
}
