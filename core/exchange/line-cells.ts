import { parse } from 'csv-parse/sync'
import { withoutGuard } from './guard'

/** The cells of one pasted line, set apart by commas, semicolons or tabs, whichever it has most of; null where a quotation mark is not closed. */
export function cellsOfLine(line: string): string[] | null {
  const delimiter = [',', ';', '\t'].map((d) => ({ d, n: line.split(d).length })).sort((a, b) => b.n - a.n)[0]!.d
  try {
    return ((parse(line, { delimiter, trim: true, relax_column_count: true }) as string[][])[0] ?? []).map(withoutGuard)
  } catch {
    return null
  }
}
