import { z } from 'zod'
import { STATUSES } from '#core/grades'
import { column, FewColumn, packFew, unpackFew, type ColumnOf } from './columns'
import { Sheet, type Cell } from './table'

/** Of each column of the cells, what its numbers are. */
const CELLS = { mark: 'f64', status: 'u8', daysLate: 'u16', version: 'i32', readings: 'u8', readMark: 'f64' } as const
type Name = keyof typeof CELLS
const NAMES = Object.keys(CELLS) as Name[]

/** In the column of readings: there are some, and one is not told how many. */
export const NOT_TOLD = 255

/**
 * The cells of a sheet, one for each student and assessment, in rows of students, both in the order of the lists beside them. Without a
 * mark is NaN; the status is a place in STATUSES; version 0 and nothing beside it is a cell of which nothing is recorded.
 */
export type CellColumns = { [N in Name]: ColumnOf<(typeof CELLS)[N]> }

/** A sheet at hand: 12,000 × 60 cells are found without a string or an object each. */
export type SheetByCell = Omit<Sheet, 'cells'> & { cells: CellColumns }

/** The sheet as it travels. */
export const SheetInColumns = Sheet.omit({ cells: true }).extend({
  cells: z.strictObject({
    mark: FewColumn,
    status: FewColumn,
    daysLate: FewColumn,
    version: FewColumn,
    readings: FewColumn,
    readMark: FewColumn,
  }),
})
export type SheetInColumns = z.infer<typeof SheetInColumns>

const each = <T>(work: (name: Name) => T) => Object.fromEntries(NAMES.map((name) => [name, work(name)])) as { [N in Name]: T }

/** So many cells of which nothing is recorded. */
export function blankCells(count: number): CellColumns {
  const cells = each((name) => column(CELLS[name], count)) as unknown as CellColumns
  cells.mark.fill(NaN)
  cells.readMark.fill(NaN)
  return cells
}

const orNaN = (mark: number | null): number => mark ?? NaN
const orNull = (mark: number): number | null => (Number.isNaN(mark) ? null : mark)

/** Puts in what was typed; what comes from readings stays as it was. */
export function putTyped(cells: CellColumns, at: number, { mark, status, daysLate, version }: Omit<Cell, 'fromReadings'>): void {
  cells.mark[at] = orNaN(mark)
  cells.status[at] = STATUSES.indexOf(status)
  cells.daysLate[at] = daysLate
  cells.version[at] = version
}

export function putReadings(cells: CellColumns, at: number, from: Cell['fromReadings']): void {
  cells.readings[at] = from === null ? 0 : from.readings === 0 ? NOT_TOLD : from.readings
  cells.readMark[at] = orNaN(from?.mark ?? null)
}

/** Whether anything is recorded of a cell. */
export const isRecorded = (cells: CellColumns, at: number): boolean =>
  cells.version[at] !== 0 || cells.readings[at] !== 0 || cells.status[at] !== 0 || !Number.isNaN(cells.mark[at])

/** One cell of a sheet; undefined where nothing is recorded of it. */
export function cellAt({ cells, students, assessments }: SheetByCell, at: number): Cell | undefined {
  if (!isRecorded(cells, at)) return undefined
  const readings = cells.readings[at]!
  return {
    studentId: students[Math.floor(at / assessments.length)]!.id,
    assessmentId: assessments[at % assessments.length]!.id,
    status: STATUSES[cells.status[at]!]!,
    daysLate: cells.daysLate[at]!,
    mark: orNull(cells.mark[at]!),
    fromReadings: readings === 0 ? null : { mark: orNull(cells.readMark[at]!), readings: readings === NOT_TOLD ? 0 : readings },
    version: cells.version[at]!,
  }
}

/** All that is recorded, one after the other: all at once they take a lot of room. */
export function* recordedCells(sheet: SheetByCell): Generator<Cell> {
  for (let at = 0; at < sheet.cells.mark.length; at++) {
    const cell = cellAt(sheet, at)
    if (cell) yield cell
  }
}

/** A sheet in columns from its cells one by one. */
export function sheetByCell({ cells, ...rest }: Sheet): SheetByCell {
  const studentAt = new Map(rest.students.map((s, i) => [s.id, i]))
  const assessmentAt = new Map(rest.assessments.map((a, i) => [a.id, i]))
  const columns = blankCells(studentAt.size * assessmentAt.size)
  for (const c of cells) {
    const at = studentAt.get(c.studentId)! * assessmentAt.size + assessmentAt.get(c.assessmentId)!
    putTyped(columns, at, c)
    putReadings(columns, at, c.fromReadings)
  }
  return { ...rest, cells: columns }
}

/** Packs a sheet column by column; whoever else is asking may be answered between them. */
export function* packingSheet({ cells, ...rest }: SheetByCell): Generator<void, SheetInColumns> {
  const packed = {} as SheetInColumns['cells']
  for (const name of NAMES) {
    yield
    packed[name] = packFew(cells[name])
  }
  yield
  return { ...rest, cells: packed }
}

export const unpackSheet = ({ cells, ...rest }: SheetInColumns): SheetByCell => ({
  ...rest,
  cells: each((name) => unpackFew(CELLS[name], cells[name])) as unknown as CellColumns,
})
