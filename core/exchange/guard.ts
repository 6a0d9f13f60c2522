/** What a spreadsheet would take for a formula, apostrophes before it aside. */
const FORMULA = /^'*[=+\-@\t\r\uFF1D\uFF0B\uFF0D\uFF20]/
/** A number below 0 is one, and nothing is run. */
const NUMBER = /^-\d+(\.\d+)?$/

/** A cell of a file with an apostrophe before what a spreadsheet would run as a formula, so that it stays text. */
export const guarded = (cell: string): string => (FORMULA.test(cell) && !NUMBER.test(cell) ? `'${cell}` : cell)

/** A cell of a file as it was before it was guarded. */
export const withoutGuard = (cell: string): string => (cell.startsWith("'") && FORMULA.test(cell) ? cell.slice(1) : cell)
