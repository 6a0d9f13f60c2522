import exceljs from 'exceljs'
import { zipSync } from 'fflate'
import { checkTable, FileError, MAX_ROWS, type FileTable } from './delimited'

/**
 * The first sheet of an unpacked workbook (ISO/IEC 29500) as a table of text.
 * @throws FileError where it has no sheet, too many rows, or a formula in a cell
 */
export async function readWorkbook(files: ReadonlyMap<string, Uint8Array>): Promise<FileTable> {
  for (const [name, data] of files)
    if (/^xl\/worksheets\/sheet\d+\.xml$/.test(name) && countRows(data) > MAX_ROWS + 1)
      throw new FileError(`The sheet has more than ${MAX_ROWS} rows. Bring it in in parts.`)
  const book = new exceljs.Workbook()
  try {
    // Packed anew from what was counted, so that nothing else is unpacked behind our back.
    const packed = zipSync(Object.fromEntries(files), { level: 0 })
    await book.xlsx.load(packed.buffer as ArrayBuffer)
  } catch {
    throw new FileError('The workbook is damaged and cannot be read: open it, save it again as XLSX, and bring that in.')
  }
  const sheet = book.worksheets[0]
  if (!sheet || sheet.rowCount === 0) throw new FileError('The workbook has no rows in its first sheet.')
  const width = Math.min(sheet.columnCount, 500)
  const textOf = (row: exceljs.Row): string[] =>
    Array.from({ length: width }, (_, i) => {
      const cell = row.getCell(i + 1)
      if (cell.type === exceljs.ValueType.Formula || cell.formula)
        throw new FileError(
          `Cell ${cell.address} holds a formula. Paste the sheet’s cells as values, save, and bring it in again.`,
          row.number,
          cell.address,
        )
      const { value } = cell
      if (value instanceof Date) return Number.isNaN(value.getTime()) ? '' : value.toISOString().slice(0, 10)
      return value === null || value === undefined ? '' : cell.text.trim()
    })
  const rows: FileTable['rows'] = []
  let header: string[] | null = null
  sheet.eachRow((row) => {
    const cells = textOf(row)
    if (header) rows.push({ line: row.number, cells })
    else header = cells
  })
  const names: string[] = header ?? []
  while (names.length > 0 && names.at(-1) === '') names.pop()
  return checkTable({ header: names, rows: rows.map((r) => ({ ...r, cells: trimEnd(r.cells, names.length) })) })
}

const trimEnd = (cells: string[], width: number) => {
  const kept = [...cells]
  while (kept.length > width && kept.at(-1) === '') kept.pop()
  return kept
}

/** Counts `<row` without turning the sheet into a string. */
function countRows(xml: Uint8Array): number {
  let n = 0
  for (let i = 0; i + 4 < xml.length; i++)
    if (
      xml[i] === 0x3c &&
      xml[i + 1] === 0x72 &&
      xml[i + 2] === 0x6f &&
      xml[i + 3] === 0x77 &&
      (xml[i + 4] === 0x20 || xml[i + 4] === 0x3e)
    )
      n++
  return n
}

/** A workbook of one sheet with a frozen heading; every cell a text, so that numbers keep their zeros. */
export async function writeWorkbook(title: string, header: readonly string[], rows: readonly (readonly string[])[]): Promise<Uint8Array> {
  const book = new exceljs.Workbook()
  const sheet = book.addWorksheet(title, { views: [{ state: 'frozen', ySplit: 1 }] })
  sheet.addRow([...header]).font = { bold: true }
  for (const row of rows) sheet.addRow(row.map((x) => (x === '' ? null : x)))
  sheet.columns.forEach((column, i) => {
    column.width = Math.max(12, header[i]!.length + 2)
    column.numFmt = '@'
  })
  return new Uint8Array(await book.xlsx.writeBuffer())
}
