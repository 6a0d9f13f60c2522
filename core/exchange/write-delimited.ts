import { stringify } from 'csv-stringify/sync'

/** What a spreadsheet would take for a formula, apostrophes before it aside. */
const FORMULA = /^'*[=+\-@\t\r\uFF1D\uFF0B\uFF0D\uFF20]/
/** A number below 0 is one, and nothing is run. */
const NUMBER = /^-\d+(\.\d+)?$/

/**
 * A table as CSV (RFC 4180, UTF-8). An apostrophe before what a spreadsheet would run as a formula keeps it text; `withoutGuard`
 * takes it off again.
 * @param bom whether a byte order mark comes first, by which spreadsheets know UTF-8
 */
export const writeDelimited = (rows: readonly (readonly (string | number)[])[], { bom = true } = {}): string =>
  stringify(
    rows.map((row) => row.map((cell) => guarded(String(cell)))),
    { bom, record_delimiter: 'windows' },
  )

const guarded = (cell: string): string => (FORMULA.test(cell) && !NUMBER.test(cell) ? `'${cell}` : cell)

/** A cell of a file as it was before it was guarded. */
export const withoutGuard = (cell: string): string => (cell.startsWith("'") && FORMULA.test(cell) ? cell.slice(1) : cell)
