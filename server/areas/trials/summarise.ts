import { changesInWords, type Change, type Workings } from '#core/trial'
import type { CourseTable } from '#contract'

/** What a decision did, in words for the record. */
export function summarise(changes: readonly Change[], table: Omit<CourseTable, 'head'>, { cells }: Pick<Workings, 'cells'>): string {
  return changesInWords(changes, {
    title: (id) => table.assessments.find((a) => a.id === id)?.title ?? table.components.find((c) => c.id === id)?.title ?? id,
    marker: (id) => table.markers.find((m) => m.id === id)?.name ?? id,
    section: (id) => table.sections.find((s) => s.id === id)?.name ?? id,
    ofScript(scriptId) {
      const cell = cells.ofScript(scriptId)
      return cell < 0 ? '' : cells.assessmentId(cell)
    },
    adjustments: table.adjustments,
  })
}
