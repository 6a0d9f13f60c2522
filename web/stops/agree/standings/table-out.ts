import type { Standings } from '#core/outcomes'
import type { CourseOutcomes, TablePlan } from '#contract'
import type { TableOut } from '../../../parts/take-out/table-out'

/** Standings as a table: for each outcome the level, whether it is reached, and how many results there are. */
export function standingsOut(
  table: TablePlan,
  { outcomes }: Pick<CourseOutcomes, 'outcomes'>,
  rows: readonly Standings[],
  label: (studentId: string) => string,
): TableOut {
  const students = new Map(table.students.map((s) => [s.id, s]))
  const sections = new Map(table.sections.map((s) => [s.id, s.name]))
  return {
    title: 'Standings',
    header: ['candidate', 'student', 'section', ...outcomes.flatMap((o) => [o.title, `${o.title}: reached`, `${o.title}: results`])],
    rows: rows.map((r) => [
      students.get(r.studentId)?.candidate ?? '',
      label(r.studentId),
      sections.get(r.sectionId) ?? '',
      ...outcomes.flatMap((o, k) => {
        const { level, reached, results } = r.standings[k]!
        return [level === null ? '' : o.levels[level - 1]!.label, level === null ? '' : reached ? 'yes' : 'no', results]
      }),
    ]),
  }
}
