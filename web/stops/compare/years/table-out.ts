import type { TableOut } from '../../../parts/take-out/table-out'
import type { ComparedYears } from './figures'

const round = (x: number | null | undefined): number | null => (x === null || x === undefined ? null : Number(x.toFixed(3)))

/** The years as a table, with how many had each grade. */
export function yearsOut({ title, years }: ComparedYears): TableOut {
  const grades = [...new Set(years.flatMap((y) => y.grades.map((g) => g.grade)))]
  return {
    title: `${title} by year`,
    header: ['year', 'called', 'marked', 'median', 'mean', 'sd', 'against this year', 'from', 'to', ...grades],
    rows: years.map((y) => [
      y.term,
      y.title,
      y.figures.n,
      round(y.figures.median),
      round(y.figures.mean),
      round(y.figures.sd),
      round(y.difference),
      round(y.interval?.[0]),
      round(y.interval?.[1]),
      ...grades.map((grade) => y.grades.find((g) => g.grade === grade)?.count ?? null),
    ]),
  }
}
