import { AS_OF, writeCellText } from '#core'
import type { Sheet } from '#contract'

/**
 * The sheet as a table: who, and a column for each assessment that is typed in; it is read back by the same headings, and merged with what was changed since it was taken out.
 */
export function marksTable({ students, assessments, cells, sections }: Sheet, asOf: string): string[][] {
  const sectionOf = new Map(sections.map((s) => [s.id, s.name]))
  const textOf = new Map(cells.map((c) => [`${c.studentId} ${c.assessmentId}`, c.fromReadings ? '' : writeCellText(c)]))
  // What comes from readings is agreed at Reconcile and is not taken back in from a file.
  const typed = assessments.filter((a) => !cells.some((c) => c.assessmentId === a.id && c.fromReadings))
  return [
    ['candidate', 'name', 'section', ...typed.map((a) => a.title), AS_OF],
    ...students.map((s) => [
      s.candidate,
      s.name,
      sectionOf.get(s.sectionId) ?? '',
      ...typed.map((a) => textOf.get(`${s.id} ${a.id}`) ?? ''),
      asOf,
    ]),
  ]
}
