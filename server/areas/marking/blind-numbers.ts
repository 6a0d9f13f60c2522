import { randomInt, randomUUID } from 'node:crypto'
import type { Db } from '../../kernel/db/open'
import { writing } from '../../kernel/db/transactions'

interface BlindScript {
  id: string
  studentId: string
  number: string
}

/** How scripts are called on a desk where they are read blind: nothing of it is told by any other page, file or error. */
export function blindNumbers(db: Db) {
  const all = db.prepare<[string], BlindScript>('SELECT id, student_id AS studentId, number FROM blind_script WHERE assessment_id = ?')
  const byId = db.prepare<[string, string], { studentId: string }>(
    'SELECT student_id AS studentId FROM blind_script WHERE id = ? AND assessment_id = ?',
  )
  // A candidate's number must not be taken for another's script.
  const candidates = db
    .prepare<[string], string>('SELECT s.candidate FROM student s JOIN assessment a ON a.course_id = s.course_id WHERE a.id = ?')
    .pluck()
  const insert = db.prepare('INSERT INTO blind_script (id, assessment_id, student_id, number) VALUES (?, ?, ?, ?)')
  return {
    /** Of each of the students; whoever has none yet is given one, drawn so that it says nothing. */
    of: (assessmentId: string, studentIds: readonly string[]): Map<string, BlindScript> =>
      writing(db, () => {
        const known = new Map(all.all(assessmentId).map((s) => [s.studentId, s]))
        const missing = studentIds.filter((id) => !known.has(id))
        if (missing.length > 0) {
          const taken = new Set([...[...known.values()].map((s) => s.number), ...candidates.all(assessmentId)])
          const from = 1000
          const to = Math.max(10_000, (taken.size + missing.length) * 10)
          for (const studentId of missing) {
            let number: string
            do number = String(randomInt(from, to))
            while (taken.has(number))
            taken.add(number)
            const script = { id: randomUUID(), studentId, number }
            insert.run(script.id, assessmentId, studentId, number)
            known.set(studentId, script)
          }
        }
        return known
      }),
    studentOf: (assessmentId: string, id: string): string | null => byId.get(id, assessmentId)?.studentId ?? null,
  }
}
