import { parse } from 'csv-parse/sync'
import { withoutGuard } from './guard'
import { LENIENT } from './separator'

/** The cells of one pasted line, set apart by tabs, semicolons or commas, whichever it has most of (of two alike, in this order: a comma may stand in a name); null where a quotation mark is not closed. */
export function cellsOfLine(line: string, separator?: string): string[] | null {
  const delimiter = separator ?? ['\t', ';', ','].map((d) => ({ d, n: line.split(d).length })).sort((a, b) => b.n - a.n)[0]!.d
  try {
    return ((parse(line, { ...LENIENT, delimiter }) as string[][])[0] ?? []).map(withoutGuard)
  } catch {
    return null
  }
}
