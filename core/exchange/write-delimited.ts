import { stringify, type Options } from 'csv-stringify/sync'
import { guarded } from './guard'

/** How every CSV of ours is written (RFC 4180): a bare line break in a cell is quoted too, which the writer does not do by itself. */
export const CSV_FORM: Options = { record_delimiter: 'windows', quoted_match: /[\r\n]/ }

/** Rows as CSV (RFC 4180), their cells as they are: for files that programs read. */
export const csvOf = (rows: readonly (readonly (string | number)[])[]): string => stringify(rows as string[][], CSV_FORM)

/**
 * A table as CSV (RFC 4180, UTF-8), with formulas guarded.
 * @param bom whether a byte order mark comes first, by which spreadsheets know UTF-8
 */
export const writeDelimited = (rows: readonly (readonly (string | number)[])[], { bom = true } = {}): string =>
  stringify(
    rows.map((row) => row.map((cell) => guarded(String(cell)))),
    { ...CSV_FORM, bom },
  )
