import { parse } from 'csv-parse/sync'
import { FileError, MAX_ROWS, type FileTable } from './delimited'
import { whyNoCsv } from './separator'

/** What says of a data package (Frictionless) what is in it. */
export const DESCRIPTION = 'datapackage.json'
export const tablePath = (name: string): string => `data/${name}.csv`

/** Whether an unpacked archive is a data package. */
export const isDataPackage = (files: ReadonlyMap<string, Uint8Array>): boolean => files.has(DESCRIPTION)

/**
 * A table of an unpacked data package, as programs write it: commas, UTF-8, and a heading in the first line.
 * @throws FileError where there is none of that name, it breaks off or is too long
 */
export function packedTable(files: ReadonlyMap<string, Uint8Array>, name: string): FileTable {
  const path = tablePath(name)
  const bytes = files.get(path)
  if (!bytes)
    throw new FileError(
      files.has(tablePath('course'))
        ? 'This data package holds a whole course: it is brought in where courses are made.'
        : `There is no ${path} in this data package.`,
    )
  let records: { record: string[]; info: { lines: number } }[]
  try {
    records = parse(new TextDecoder().decode(bytes), {
      bom: true,
      info: true,
      relax_column_count: true,
      to: MAX_ROWS + 2,
    }) as unknown as typeof records
  } catch (e) {
    const { reason, line } = whyNoCsv(e)
    throw new FileError(`${path}: ${reason}`, line, path)
  }
  if (records.length > MAX_ROWS + 1) throw new FileError(`${path} has more than ${MAX_ROWS} rows.`, 1, path)
  const [heading, ...rows] = records
  return { header: heading?.record ?? [], rows: rows.map(({ record, info }) => ({ line: info.lines, cells: record })) }
}

/** The rows of such a table by what its columns are called. */
export const packedRows = (files: ReadonlyMap<string, Uint8Array>, name: string): Record<string, string>[] => {
  const { header, rows } = packedTable(files, name)
  return rows.map(({ cells }) => Object.fromEntries(header.map((column, i) => [column, cells[i] ?? ''])))
}
