import { parse } from 'csv-parse/sync'
import { withoutGuard } from './guard'
import { LENIENT, SAYS_SEPARATOR, separatorOf, whyNoCsv } from './separator'
import { headingAt } from './two-headings'

/** A table read from a file: a heading and rows of text, each with its line for messages. */
export interface FileTable {
  header: string[]
  /** The line that the heading stands in; the first where nothing is said. */
  headingLine?: number
  rows: { line: number; cells: string[] }[]
}

/** A file cannot be read at all; the message says where and what to do. */
export class FileError extends Error {
  constructor(
    message: string,
    readonly line = 1,
    readonly column: string | null = null,
  ) {
    super(message)
    this.name = 'FileError'
  }
}

export const MAX_ROWS = 50_000
export const MAX_CELL = 2_000
export const MAX_COLUMNS = 500
/** Longer than any title of ours. */
const MAX_HEADING = 300

/** Lines that stand above a heading at most. */
export const MOST_ABOVE = 30

/** Which of a table's first rows is its heading, by its place among them. */
export type FindHeading = (rows: FileTable['rows']) => number

/**
 * Reads delimited text (RFC 4180; comma, semicolon or tab, told by the heading and the rows beneath it; with or without BOM).
 * @param findHeading where the heading may stand below other lines, which are then left out
 * @throws FileError where it is no text, empty, broken off, without columns or too long
 */
export function readDelimited(text: string, findHeading?: FindHeading): FileTable {
  if (text.includes('\u0000')) throw new FileError('This is not a text file. Save the sheet as CSV (UTF-8) and bring that in.')
  const whole = text.replace(/^\uFEFF/, '')
  const said = SAYS_SEPARATOR.exec(whole)
  const body = said ? whole.slice(said[0].length) : whole
  const above = said ? 1 : 0
  if (body.trim() === '') throw new FileError('The file is empty.')
  const delimiter = said?.[1] ?? separatorOf(body, (rows) => belowHeading(rows, findHeading))
  if (delimiter === null)
    throw new FileError(
      'The first line has no columns that can be told apart: separate them with commas, semicolons or tabs, and begin with a heading.',
    )
  let records: { record: string[]; info: { lines: number } }[]
  try {
    records = parse(body, { ...LENIENT, delimiter, info: true, to: MAX_ROWS + 2 }) as unknown as typeof records
  } catch (e) {
    const { reason, line } = whyNoCsv(e)
    throw new FileError(reason, line + above)
  }
  return checkTable(
    belowHeading(
      records.map((r) => ({ line: r.info.lines + above, cells: r.record })),
      findHeading,
    ),
  )
}

/** A table from its rows: its heading, and what stands beneath it. Where the heading is looked for, it may take two rows. */
export function belowHeading(rows: FileTable['rows'], findHeading?: FindHeading): FileTable {
  if (!findHeading) return { header: rows[0]?.cells ?? [], headingLine: rows[0]?.line ?? 1, rows: rows.slice(1) }
  const at = findHeading(rows.slice(0, MOST_ABOVE).map(({ line }, i) => ({ line, cells: headingAt(rows, i).cells })))
  const { cells, beneath } = headingAt(rows, at)
  return { header: cells, headingLine: rows[at]?.line ?? 1, rows: rows.slice(at + 1 + beneath) }
}

/** A table whose cells are as they were before formulas in them were guarded. */
export const unguarded = ({ header, rows, ...table }: FileTable): FileTable => ({
  ...table,
  header: header.map(withoutGuard),
  rows: rows.map((r) => ({ ...r, cells: r.cells.map(withoutGuard) })),
})

/** @throws FileError where a table has no rows, too many, or two columns of one name */
export function checkTable(table: FileTable): FileTable {
  if (table.rows.length === 0) throw new FileError('There is a heading line but no row beneath it.')
  if (table.rows.length > MAX_ROWS) throw new FileError(`The file has more than ${MAX_ROWS} rows. Bring it in in parts.`)
  const header = table.header.map((n) => n.trim())
  if (header.length > MAX_COLUMNS)
    throw new FileError(`The file has ${header.length} columns, and ${MAX_COLUMNS} are read. Bring it in in parts.`)
  const long = header.find((n) => n.length > MAX_HEADING)
  if (long !== undefined) throw new FileError(`The heading “${long.slice(0, 40)}…” is longer than ${MAX_HEADING} characters: shorten it.`)
  const seen = new Set<string>()
  const doubled = header.map((n) => n.toLowerCase()).find((n) => n !== '' && (seen.has(n) || !seen.add(n)))
  if (doubled !== undefined) throw new FileError(`Two columns are headed “${doubled.slice(0, 60)}”: keep one.`, 1, doubled)
  return { ...table, header }
}

/** What is wrong with a row as a row, as a sentence; null where nothing is. */
export function rowFault(header: readonly string[], cells: readonly string[]): string | null {
  if (cells.length > header.length)
    return `This row has ${cells.length} cells, the heading has ${header.length}: a cell with the separator in it needs quotation marks.`
  if (cells.some((c) => c.length > MAX_CELL)) return `A cell of this row is longer than ${MAX_CELL} characters.`
  return null
}
