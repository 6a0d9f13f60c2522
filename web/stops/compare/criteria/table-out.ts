import { figure, type TableOut } from '../../../parts/take-out/table-out'
import type { ComparedCriterion } from './figures'

/** The criteria as a table: every figure that is on the page, a column for each level. */
export function criteriaOut(title: string, rows: readonly ComparedCriterion[]): TableOut {
  const most = Math.max(0, ...rows.map((c) => c.labels.length))
  return {
    title: `${title} by criterion`,
    header: [
      'criterion',
      'of',
      'judged',
      'mean share',
      'sd of the share',
      'with the rest',
      'apart',
      'alpha',
      ...Array.from({ length: most }, (_, i) => `level ${i + 1}`),
    ],
    rows: rows.map((c) => [
      c.title,
      c.penalty ? -c.max : c.max,
      c.n,
      figure(c.mean),
      figure(c.sd),
      figure(c.withOthers),
      figure(c.apart),
      figure(c.alpha),
      ...Array.from({ length: most }, (_, i) => c.levels[i] ?? null),
    ]),
  }
}
