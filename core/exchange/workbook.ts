/* eslint-disable no-control-regex */
import { strFromU8, zipSync } from 'fflate'
import { readSheet } from 'read-excel-file/universal'
import writeBook from 'write-excel-file/universal'
import { belowHeading, checkTable, FileError, MAX_COLUMNS, MAX_ROWS, type FileTable, type FindHeading } from './delimited'

const DAMAGED = 'The workbook is damaged and cannot be read: open it, save it again as XLSX, and bring that in.'

/**
 * The first sheet of an unpacked workbook (ISO/IEC 29500) as a table of text.
 * @param findHeading where the heading may stand below other rows
 * @throws FileError where it has no sheet, a formula in a cell, or more rows or columns than are read
 */
export async function readWorkbook(files: ReadonlyMap<string, Uint8Array>, findHeading?: FindHeading): Promise<FileTable> {
  for (const [name, data] of files) if (/^xl\/worksheets\/sheet\d+\.xml$/.test(name)) checkSheet(strFromU8(data))
  let rows: unknown[][]
  try {
    // Packed anew from what was counted, so that nothing else is unpacked behind our back.
    const packed = zipSync(Object.fromEntries(files), { level: 0 })
    rows = await readSheet(packed.buffer as ArrayBuffer)
  } catch {
    throw new FileError(DAMAGED)
  }
  if (rows.length === 0) throw new FileError('The workbook has no rows in its first sheet.')
  const lines = rows.flatMap((cells, i) => (cells.every((c) => c === null || c === '') ? [] : [{ line: i + 1, cells: cells.map(textOf) }]))
  const table = belowHeading(lines, findHeading)
  const header = trimEnd(table.header, 0)
  return checkTable({ ...table, header, rows: table.rows.map((r) => ({ ...r, cells: trimEnd(r.cells, header.length) })) })
}

function textOf(value: unknown): string {
  if (value === null || value === undefined) return ''
  if (value instanceof Date) return Number.isNaN(value.getTime()) ? '' : value.toISOString().slice(0, 10)
  // A spreadsheet shows fifteen digits: 0.1 + 0.2 is 0.3 to whoever typed it.
  if (typeof value === 'number') return String(Number(value.toPrecision(15)))
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

/**
 * What stands in a column: `mark` numbers as such and other words, a status for one, as words; `percent` figures from 0 to 100; `day` ISO
 * days. A text stays a text, so that numbers in it keep their zeros.
 */
export type ColumnKind = 'text' | 'mark' | 'percent' | 'day'

/** A sheet to write: its heading, its rows, and what stands in its columns. */
export interface SheetToWrite {
  title: string
  header: readonly string[]
  rows: readonly (readonly (string | number)[])[]
  /** In the order of the heading; without it numbers are numbers and texts are texts. */
  kinds?: readonly ColumnKind[]
  /** Columns that stay in sight when one scrolls to the right. */
  held?: number
}

/** A workbook with a frozen bold heading on each sheet (ISO/IEC 29500); its cells are what they are: numbers, percents, days, texts. */
export async function writeSheets(sheets: readonly SheetToWrite[]): Promise<Uint8Array> {
  const blob = await writeBook(
    sheets.map(({ title, header, rows, kinds = [], held = 0 }) => ({
      sheet: title.replace(/[\\/?*[\]:]/g, ' ').slice(0, 31),
      stickyRowsCount: 1,
      ...(held > 0 ? { stickyColumnsCount: held } : {}),
      columns: header.map((name, i) => ({
        width: Math.max(12, name.length + 2, ...rows.slice(0, 50).map((r) => String(r[i] ?? '').length + 1)),
      })),
      data: [
        header.map((name) => ({ value: inXml(name), type: String, fontWeight: 'bold' as const })),
        ...rows.map((row) => row.map((value, i) => cellOf(value, kinds[i]))),
      ],
    })),
  ).toBlob()
  return new Uint8Array(await blob.arrayBuffer())
}

// A sheet is XML, which has no place for these.
const NOT_IN_XML =
  /[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]|[\u0000-\u0008\u000B\u000C\u000E-\u001F\uFFFE\uFFFF]/g
/** The library looks texts up in a bare object, where "constructor" and its like are there before anybody writes them. */
const withoutInherited = (text: string): string => (text in {} ? `${text} ` : text)
const inXml = (text: string): string => withoutInherited(text.replace(NOT_IN_XML, '\uFFFD'))

const DECIMAL = /^-?\d+(\.\d+)?$/
const DAY = /^\d{4}-\d{2}-\d{2}$/

function cellOf(value: string | number, kind?: ColumnKind) {
  if (value === '') return null
  const isFigure = typeof value === 'number' || ((kind === 'mark' || kind === 'percent') && DECIMAL.test(value))
  if (isFigure && kind === 'percent') return { value: Number(value) / 100, type: Number, format: '0.0##%' }
  if (isFigure) return { value: Number(value), type: Number, ...(kind === 'mark' && { format: '0.###' }) }
  const text = String(value)
  if (kind === 'day' && DAY.test(text)) return { value: new Date(`${text}T00:00:00Z`), type: Date, format: 'yyyy-mm-dd' }
  return { value: inXml(text), type: String, format: '@' }
}

/** A workbook of one sheet. */
export const writeWorkbook = (
  title: string,
  header: readonly string[],
  rows: readonly (readonly string[])[],
  kinds: readonly ColumnKind[] = [],
): Promise<Uint8Array> => writeSheets([{ title, header, rows, kinds }])
