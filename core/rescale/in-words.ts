import type { Adjustment } from './adjustments'
import { methodOf } from './methods'

/** How what an adjustment is about is called. */
export interface Named {
  /** An assessment. */
  title: (id: string) => string
  section: (id: string) => string
  marker: (id: string) => string
}

/** What an adjustment does, and to what: “Traverse closure in Alidade +2”. */
export function adjustmentInWords({ method, assessmentId, sectionIds }: Adjustment, { title, section, marker }: Named): string {
  const where = sectionIds ? ` in ${sectionIds.map(section).join(', ')}` : ''
  return `${assessmentId === null ? 'the course percent' : title(assessmentId)}${where} ${methodOf(method.kind).done(method, { marker })}`
}

/** All that are on, in their order, each with what it keeps to. */
export const rescalingsInWords = (adjustments: readonly Adjustment[], named: Named): string[] =>
  adjustments.filter((a) => a.on).map((a) => `${adjustmentInWords(a, named)}${a.neverLower ? ', never lower' : ''}`)
