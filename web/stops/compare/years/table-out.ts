import { figure, type TableOut } from '../../../parts/take-out/table-out'
import type { ComparedYears } from './figures'

/** The years as a table, with how many had each grade. */
export function yearsOut({ title, years, asMarked }: ComparedYears): TableOut {
  const grades = [...new Set(years.flatMap((y) => y.grades.map((g) => g.grade)))]
  return {
    title: `${title} by year${asMarked ? ', as marked' : ''}`,
    header: ['year', 'called', 'marked', 'median', 'mean', 'sd', 'against this year', 'from', 'to', ...grades],
    rows: years.map((y) => [
      y.term,
      y.title,
      y.figures.n,
      figure(y.figures.median),
      figure(y.figures.mean),
      figure(y.figures.sd),
      figure(y.difference),
      figure(y.interval?.[0]),
      figure(y.interval?.[1]),
      ...grades.map((grade) => y.grades.find((g) => g.grade === grade)?.count ?? null),
    ]),
  }
}
