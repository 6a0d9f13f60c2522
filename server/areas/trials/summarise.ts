import { changesInWords, type Change } from '#core/trial'
import type { CourseTable } from '#contract'

/** What a decision did, in words for the record. */
export function summarise(changes: readonly Change[], table: Omit<CourseTable, 'head'>): string {
  const place = new Map(table.scripts.id.map((id, i) => [id, i]))
  return changesInWords(changes, {
    title: (id) => table.assessments.find((a) => a.id === id)?.title ?? table.components.find((c) => c.id === id)?.title ?? id,
    marker: (id) => table.markers.find((m) => m.id === id)?.name ?? id,
    section: (id) => table.sections.find((s) => s.id === id)?.name ?? id,
    ofScript: (scriptId) => table.assessments[table.scripts.assessment[place.get(scriptId) ?? -1] ?? -1]?.id ?? '',
    adjustments: table.adjustments,
  })
}
