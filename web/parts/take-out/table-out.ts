import { MEDIA_TYPES } from '#core/exchange/media-types'
import { fileName, handOver } from './hand-over'

/** A table to take out: headings once, then rows; null is a blank, and numbers stay numbers. */
export interface TableOut {
  title: string
  header: readonly string[]
  rows: readonly (readonly (string | number | null)[])[]
}

/** A figure as it stands in a file: to three decimals. */
export const figure = (x: number | null | undefined): number | null => (x === null || x === undefined ? null : Number(x.toFixed(3)))

const cells = ({ rows }: TableOut): (string | number)[][] => rows.map((row) => row.map((cell) => cell ?? ''))

export async function takeOutCsv(table: TableOut): Promise<void> {
  const { writeDelimited } = await import('#core/exchange/write-delimited')
  handOver(
    fileName(table.title, 'csv'),
    new Blob([writeDelimited([table.header, ...cells(table)])], { type: `${MEDIA_TYPES.csv};charset=utf-8` }),
  )
}

export async function takeOutWorkbook(table: TableOut): Promise<void> {
  const { writeSheets } = await import('#core/exchange/workbook')
  const bytes = await writeSheets([{ title: table.title, header: table.header, rows: cells(table) }])
  handOver(fileName(table.title, 'xlsx'), new Blob([bytes as Uint8Array<ArrayBuffer>], { type: MEDIA_TYPES.xlsx }))
}
