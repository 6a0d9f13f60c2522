import { zipSync } from 'fflate'
import { readSheet } from 'read-excel-file/universal'
import { bookSheets, cellKinds, type BookSheet } from './book-sheets'
import { belowHeading, checkTable, FileError, MAX_COLUMNS, MAX_ROWS, type FileTable, type FindHeading } from './delimited'
import type { SheetOfFile } from './sheets-of-file'

const DAMAGED = 'The workbook is damaged and cannot be read: open it, save it again as XLSX, and bring that in.'
/** More sheets than these are not looked at, unless they are chosen. */
const MOST_SHEETS = 60

export interface ReadBook {
  findHeading?: FindHeading | undefined
  /** The sheets that are meant, by name; without them the first that is not hidden, and those with the same heading. */
  chosen?: readonly string[] | undefined
  /** Only one sheet is read where nothing is chosen. */
  alone?: boolean
}

type Files = ReadonlyMap<string, Uint8Array>

/**
 * Sheets of an unpacked workbook (ISO/IEC 29500) as one table of text: of the columns of the first, and those that others have besides.
 * A percent is text with its sign, an error what it says. Lines of a sheet after the first are counted on.
 * @throws FileError where it has no sheet, a formula in a cell, or more rows or columns than are read
 */
export async function readWorkbook(files: Files, how: ReadBook = {}): Promise<FileTable & { sheets: SheetOfFile[] }> {
  const sheets = bookSheets(files)
  const { chosen, alone = false } = how
  const meant = sheets.filter((s) => (chosen ? chosen.includes(s.name) : !s.hidden))
  if (meant.length === 0)
    throw new FileError(
      sheets.length === 0 ? DAMAGED : 'Every sheet of the workbook is hidden: show the one that is meant, and save it again.',
    )
  // Packed anew from what was counted, so that nothing else is unpacked behind our back.
  const book = { files, packed: zipSync(Object.fromEntries(files), { level: 0 }).buffer as ArrayBuffer }
  const read = new Map<BookSheet, FileTable>()
  for (const sheet of meant.slice(0, chosen ? undefined : alone ? 1 : MOST_SHEETS)) {
    const first = [...read.values()][0]
    try {
      const table = await tableOf(sheet, book, how.findHeading)
      if (chosen || !first || sameHeading(first, table)) read.set(sheet, table)
    } catch (e) {
      // Another sheet may be anything, unless it is chosen.
      if (chosen || !first || !(e instanceof FileError)) throw e
    }
  }
  return joined(sheets, read)
}

const plain = (heading: readonly string[]) => heading.map((h) => h.trim().toLowerCase())
const sameHeading = (a: FileTable, b: FileTable) => plain(a.header).join('\t') === plain(b.header).join('\t')

function joined(sheets: readonly BookSheet[], read: ReadonlyMap<BookSheet, FileTable>): FileTable & { sheets: SheetOfFile[] } {
  const [first] = read.values()
  const header = [...first!.header]
  const rows: FileTable['rows'] = []
  const said = new Map<BookSheet, number>()
  let before = 0
  for (const [sheet, table] of read) {
    const places = plain(table.header).map((name, i) => {
      const at = table === first ? i : name === '' ? -1 : plain(header).indexOf(name)
      return at >= 0 ? at : header.push(table.header[i]!) - 1
    })
    said.set(sheet, before)
    for (const { line, cells } of table.rows) {
      const row: string[] = []
      cells.forEach((cell, i) => (row[places[i] ?? header.length + i] = cell))
      rows.push({ line: line + before, cells: Array.from(row, (cell) => cell ?? '') })
    }
    before = rows.at(-1)?.line ?? before
  }
  return {
    ...checkTable({ header, headingLine: first!.headingLine ?? 1, rows }),
    sheets: sheets.map((s) => ({ name: s.name, hidden: s.hidden, chosen: said.has(s), linesBefore: said.get(s) ?? 0 })),
  }
}

async function tableOf(
  sheet: BookSheet,
  { files, packed }: { files: Files; packed: ArrayBuffer },
  findHeading?: FindHeading,
): Promise<FileTable> {
  checkSheet(sheet.xml)
  let rows: unknown[][]
  try {
    rows = await readSheet(packed, sheet.name)
  } catch {
    throw new FileError(DAMAGED)
  }
  if (rows.length === 0) throw new FileError(`The workbook has no rows in its sheet “${sheet.name.slice(0, 40)}”.`)
  const kinds = cellKinds(files, sheet.xml)
  const lines = rows.flatMap((row, i) => {
    const cells = row.map((value, column) => textOf(value, kinds.get(`${nameOf(column)}${i + 1}`)))
    return cells.every((c) => c === '') ? [] : [{ line: i + 1, cells }]
  })
  const table = belowHeading(lines, findHeading)
  const header = trimEnd(table.header, 0)
  return checkTable({ ...table, header, rows: table.rows.map((r) => ({ ...r, cells: trimEnd(r.cells, header.length) })) })
}

function textOf(value: unknown, kind: 'percent' | { error: string } | undefined): string {
  if (typeof kind === 'object') return kind.error
  if (value === null || value === undefined) return ''
  if (value instanceof Date) return Number.isNaN(value.getTime()) ? '' : value.toISOString().slice(0, 10)
  // A spreadsheet shows fifteen digits: 0.1 + 0.2 is 0.3 to whoever typed it.
  if (typeof value === 'number')
    return kind === 'percent' ? `${Number((value * 100).toPrecision(15))}%` : String(Number(value.toPrecision(15)))
  return String(value as string | boolean).trim()
}

/** Refuses a sheet by what its cells are called, before anything makes room for them: one far cell would be millions of empty ones. */
function checkSheet(xml: string): void {
  for (const [, column, row] of xml.matchAll(/<c\b[^>]*?\br="([A-Z]{1,7})(\d{1,9})"/g)) {
    if (Number(row) > MAX_ROWS + 1) throw new FileError(`The sheet has more than ${MAX_ROWS} rows. Bring it in in parts.`)
    if (placeOf(column!) > MAX_COLUMNS)
      throw new FileError(
        `Cell ${column}${row} lies beyond the ${MAX_COLUMNS} columns that are read: delete what stands out there.`,
        Number(row),
      )
  }
  if (countOf(xml, '<row') > MAX_ROWS + 1) throw new FileError(`The sheet has more than ${MAX_ROWS} rows. Bring it in in parts.`)
  const formula = /<c\b[^>]*?\br="([A-Z]+)(\d+)"[^>]*>\s*<f\b/.exec(xml)
  if (formula)
    throw new FileError(
      `Cell ${formula[1]}${formula[2]} holds a formula. Paste the sheet’s cells as values, save, and bring it in again.`,
      Number(formula[2]),
      formula[1] + formula[2]!,
    )
}

const placeOf = (column: string): number => [...column].reduce((n, letter) => n * 26 + letter.charCodeAt(0) - 64, 0)
/** The letters of a column, counted from 0. */
const nameOf = (column: number): string =>
  (column < 26 ? '' : nameOf(Math.floor(column / 26) - 1)) + String.fromCharCode(65 + (column % 26))

function countOf(text: string, part: string): number {
  let n = 0
  for (let at = text.indexOf(part); at >= 0; at = text.indexOf(part, at + part.length)) n++
  return n
}

const trimEnd = (cells: string[], width: number) => {
  const kept = [...cells]
  while (kept.length > width && kept.at(-1) === '') kept.pop()
  return kept
}
