import fc from 'fast-check'
import { STATUSES } from '#core/grades'
import { atOnce } from './at-once'
import { packingSheet, recordedCells, sheetByCell, SheetInColumns, unpackSheet } from './sheet-in-columns'
import type { Cell, Sheet } from './table'

const STUDENTS = ['x', 'y', 'z']
const ASSESSMENTS = ['a', 'b']
const mark = fc.option(
  fc.oneof(
    fc.integer({ min: 0, max: 40 }).map((x) => x / 2),
    fc.double({ noNaN: true, min: -5, max: 100 }).map((x) => x + 0),
  ),
)
const cell: fc.Arbitrary<Omit<Cell, 'studentId' | 'assessmentId'>> = fc.record({
  status: fc.constantFrom(...STATUSES),
  daysLate: fc.nat({ max: 400 }),
  mark,
  // A marker is told that there are readings, and not how many.
  fromReadings: fc.option(fc.record({ mark, readings: fc.integer({ min: 0, max: 9 }) })),
  version: fc.integer({ min: 1, max: 2 ** 31 - 1 }),
})
const cells = fc
  .array(fc.option(cell), { minLength: 6, maxLength: 6 })
  .map((all) => all.flatMap((c, i) => (c ? [{ ...c, studentId: STUDENTS[Math.floor(i / 2)]!, assessmentId: ASSESSMENTS[i % 2]! }] : [])))
const sheetOf = (of: Cell[]): Sheet => ({
  version: 3,
  sections: [],
  students: STUDENTS.map((id) => ({ id, name: id, candidate: id, sectionId: 's' })),
  assessments: ASSESSMENTS.map((id) => ({
    id,
    title: id,
    outOf: 20,
    marking: 'direct',
    passMark: null,
    componentId: 'c',
    bonus: false,
    blind: false,
    byStanding: null,
    labels: null,
  })),
  term: { firstDay: '2026-09-07', lastDay: '2026-12-18' },
  placements: [],
  overTolerance: [],
  exceptions: {},
  cells: of,
  writable: true,
})
const packed = (sheet: Sheet): SheetInColumns => atOnce(packingSheet(sheetByCell(sheet)))

test('cells of a sheet come out of its columns as they went in, over the wire as well', () =>
  fc.assert(
    fc.property(cells, (of) => {
      const sheet = sheetOf(of)
      const wire = packed(sheet)
      expect(SheetInColumns.parse(JSON.parse(JSON.stringify(wire)))).toEqual(wire)
      const back = unpackSheet(wire)
      expect({ ...back, cells: [...recordedCells(back)] }).toEqual(sheet)
    }),
  ))

test('a cell of which nothing is recorded is not among them; one with anything of it is', () => {
  const blank = { studentId: 'x', assessmentId: 'a', status: 'in', daysLate: 0, mark: null, fromReadings: null, version: 0 } as const
  const kept = (of: Partial<Cell>) => [...recordedCells(sheetByCell(sheetOf([{ ...blank, ...of }])))].length
  expect(kept({})).toBe(0)
  expect([
    kept({ mark: 0 }),
    kept({ status: 'missing' }),
    kept({ version: 1 }),
    kept({ fromReadings: { mark: null, readings: 0 } }),
    kept({ fromReadings: { mark: 4, readings: 2 } }),
  ]).toEqual([1, 1, 1, 1, 1])
})

test('marks of more kinds than have a place each travel whole', () => {
  const many = Array.from({ length: 300 }, (_, i) => `s${i}`)
  const of = sheetOf([])
  const sheet: Sheet = {
    ...of,
    students: many.map((id) => ({ ...of.students[0]!, id })),
    cells: many.map((studentId, i) => ({
      studentId,
      assessmentId: 'b',
      status: 'in',
      daysLate: i,
      mark: i / 7,
      fromReadings: null,
      version: i + 1,
    })),
  }
  const wire = packed(sheet)
  expect([wire.cells.mark.places, wire.cells.version.places, wire.cells.status.places === null]).toEqual([null, null, false])
  expect([...recordedCells(unpackSheet(wire))]).toEqual(sheet.cells)
})
