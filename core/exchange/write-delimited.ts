import { stringify } from 'csv-stringify/sync'
import { guarded } from './guard'

/**
 * A table as CSV (RFC 4180, UTF-8), with formulas guarded.
 * @param bom whether a byte order mark comes first, by which spreadsheets know UTF-8
 */
export const writeDelimited = (rows: readonly (readonly (string | number)[])[], { bom = true } = {}): string =>
  stringify(
    rows.map((row) => row.map((cell) => guarded(String(cell)))),
    { bom, record_delimiter: 'windows' },
  )
