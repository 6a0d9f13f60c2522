import type { TableOut } from '../../../parts/take-out/table-out'
import type { ComparedCriterion } from './figures'

const round = (x: number | null): number | null => (x === null ? null : Number(x.toFixed(3)))

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
      round(c.mean),
      round(c.sd),
      round(c.withOthers),
      round(c.apart),
      round(c.alpha),
      ...Array.from({ length: most }, (_, i) => c.levels[i] ?? null),
    ]),
  }
}
