/* eslint-disable no-control-regex */
import writeBook from 'write-excel-file/universal'

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
