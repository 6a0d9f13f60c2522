import { rollup } from 'd3-array'
import type { Db } from '../../kernel/db/open'

export interface Reader {
  id: string
  name: string
}

/** Whom a script is shared out to. */
export function readersOf(db: Db) {
  const all = db.prepare<[string, string], Reader>(
    'SELECT p.id, p.name FROM allotment a JOIN person p ON p.id = a.marker_id WHERE a.assessment_id = ? AND a.student_id = ? ORDER BY p.name',
  )
  const inAssessment = db.prepare<[string], Reader & { studentId: string }>(
    `SELECT p.id, p.name, a.student_id AS studentId FROM allotment a JOIN person p ON p.id = a.marker_id
     WHERE a.assessment_id = ? ORDER BY p.name`,
  )
  return {
    of: (assessmentId: string, studentId: string): Reader[] => all.all(assessmentId, studentId),
    /** Of every script of an assessment that is shared out, by student. */
    inAssessment: (assessmentId: string): Map<string, Reader[]> =>
      rollup(
        inAssessment.all(assessmentId),
        (those) => those.map(({ id, name }) => ({ id, name })),
        (r) => r.studentId,
      ),
  }
}

/**
 * Why a mark is not typed where a script is shared out to be read: it would stand before what is read later. Who else reads is
 * told to those who oversee the course alone.
 */
export function readNotTyped(readers: readonly Reader[], personId: string, tellsNames: boolean): string {
  if (tellsNames) {
    const names = readers.map((r) => r.name)
    const listed = names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names.at(-1)} read` : `${names[0]} reads`
    return `${listed} this script: its mark comes from what they hand in.`
  }
  return readers.some((r) => r.id === personId)
    ? 'This script is in your pile: mark it on the desk.'
    : 'This script is shared out to be read: its mark comes from what is handed in.'
}
