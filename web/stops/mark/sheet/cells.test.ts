import { sheetByCell, type SheetByCell } from '#contract'
import { Cells, cellsOf } from './cells'
import { columnFigures } from './figures'
import { rowsOf } from './rows'
import { cell } from '../../../testing/data'

const student = (id: string, sectionId: string) => ({ id, name: id, candidate: id, sectionId })
const assessment = (id: string, passMark: number | null = null) => ({
  id,
  title: id,
  outOf: 20,
  marking: 'direct' as const,
  passMark,
  bonus: false,
  blind: false,
  byStanding: null,
  componentId: 'c',
  labels: null,
})
const sheet = (): SheetByCell =>
  sheetByCell({
    version: 1,
    sections: [],
    students: [student('p', 'x'), student('q', 'x'), student('r', 'y')],
    assessments: [assessment('a', 10), assessment('b')],
    placements: [
      { assessmentId: 'a', sectionId: 'x', due: null },
      { assessmentId: 'b', sectionId: 'x', due: null },
      { assessmentId: 'a', sectionId: 'y', due: '2026-11-20' },
    ],
    term: { firstDay: '2026-09-07', lastDay: '2026-12-18' },
    overTolerance: [{ studentId: 'q', assessmentId: 'a' }],
    exceptions: { q: { a: '2026-11-02' } },
    cells: [
      cell('p', 'a', 8),
      cell('p', 'b', null, { version: 0 }),
      cell('q', 'a', null, { fromReadings: { mark: null, readings: 2 } }),
      cell('r', 'a', null, { status: 'missing' }),
    ],
    writable: true,
  })

test('what is set, pending and open follows placements, exceptions, status and readings', () => {
  const cells = new Cells(sheet())
  const at = (s: string, a: string) => [cells.placeOf(s), cells.columnOf(a)] as const
  expect(cells.isSet(...at('q', 'b'))).toBe(false)
  expect(cells.isSet(...at('r', 'b'))).toBe(false)
  expect(cells.isPending(...at('p', 'b'))).toBe(true)
  expect(cells.isPending(...at('q', 'a'))).toBe(false)
  expect(cells.isOpen(...at('q', 'a'))).toBe(true)
  expect(cells.isPending(...at('r', 'a'))).toBe(false)
  expect(cells.status(...at('r', 'a'))).toBe('missing')
  expect(cells.get(...at('p', 'b'))).toBeUndefined()
})

test('of somebody who is not in the sheet, or of an assessment that is not, nothing is recorded', () => {
  const cells = new Cells(sheet())
  for (const [s, a] of [
    [cells.placeOf('gone'), 0],
    [1, cells.columnOf('gone')],
  ] as const) {
    expect([cells.get(s, a), cells.mark(s, a), cells.status(s, a)]).toEqual([undefined, null, 'in'])
    expect([cells.isSet(s, a), cells.isPending(s, a), cells.isOpen(s, a), cells.isApart(s, a)]).toEqual([false, false, false, false])
  }
})

test('what is saved is put in; a blank one becomes a cell', () => {
  const cells = new Cells(sheet())
  cells.put([cell('p', 'b', 12), cell('p', 'a', 19, { version: 2 }), cell('nobody', 'a', 1)])
  expect(cells.mark(0, 1)).toBe(12)
  expect(cells.get(0, 0)).toMatchObject({ mark: 19, version: 2 })
  expect(cells.revision).toBe(1)
  cells.put([cell('q', 'b', 3)])
  expect(['p', 'q', 'r'].map((id) => cells.revisionOf(cells.placeOf(id)))).toEqual([1, 2, 0])
})

test('what others wrote is taken in with what comes from readings, and whether these lie apart', () => {
  const cells = new Cells(sheet())
  cells.takeIn([
    { ...cell('q', 'a', null, { fromReadings: { mark: 14, readings: 2 }, version: 2 }), overTolerance: false },
    { ...cell('p', 'b', null, { fromReadings: { mark: null, readings: 0 } }), overTolerance: true },
    { ...cell('nobody', 'a', 1), overTolerance: true },
  ])
  expect(cells.mark(1, 0)).toBe(14)
  expect([cells.isOpen(1, 0), cells.isApart(1, 0)]).toEqual([false, false])
  expect([cells.isOpen(0, 1), cells.isApart(0, 1)]).toEqual([true, true])
  expect(cells.get(0, 1)!.fromReadings).toEqual({ mark: null, readings: 0 })
})

test('rows are found by what they lack, and sorted by a column with the unmarked last', () => {
  const s = sheet()
  const cells = new Cells(s)
  const ids = (rows: { id: string }[]) => rows.map((r) => r.id)
  const all = { sectionId: '', only: 'all' as const, assessment: null, sort: null }
  expect(ids(rowsOf(s.students, s.assessments, cells, all))).toEqual(['p', 'q', 'r'])
  expect(ids(rowsOf(s.students, s.assessments, cells, { ...all, sectionId: 'y' }))).toEqual(['r'])
  expect(ids(rowsOf(s.students, s.assessments, cells, { ...all, only: 'unmarked' }))).toEqual(['p'])
  expect(ids(rowsOf(s.students, s.assessments, cells, { ...all, only: 'failed' }))).toEqual(['p'])
  expect(ids(rowsOf(s.students, s.assessments, cells, { ...all, only: 'status' }))).toEqual(['r'])
  expect(ids(rowsOf(s.students, s.assessments, cells, { ...all, only: 'open' }))).toEqual(['q'])
  expect(ids(rowsOf(s.students, s.assessments, cells, { ...all, only: 'apart' }))).toEqual(['q'])
  expect(ids(rowsOf(s.students, s.assessments, cells, { ...all, carried: new Set(['r', 'p']) }))).toEqual(['p', 'r'])
  // Of one assessment: those for whom it is set, and of those only what that one lacks.
  expect(ids(rowsOf(s.students, s.assessments, cells, { ...all, assessment: 1 }))).toEqual(['p'])
  expect(ids(rowsOf(s.students, s.assessments, cells, { ...all, assessment: 0, only: 'unmarked' }))).toEqual([])
  expect(ids(rowsOf(s.students, s.assessments, cells, { ...all, assessment: 0, only: 'apart' }))).toEqual(['q'])
  cells.put([cell('r', 'a', 3, { version: 2 })])
  expect(ids(rowsOf(s.students, s.assessments, cells, { ...all, sort: { column: 0, down: false } }))).toEqual(['r', 'p', 'q'])
  expect(ids(rowsOf(s.students, s.assessments, cells, { ...all, sort: { column: 0, down: true } }))).toEqual(['p', 'r', 'q'])
})

test('the day it is due is that of the student’s section; cells are found once for a sheet, also when more is put in', () => {
  const s = sheet()
  const cells = cellsOf(s)
  expect(cells.dueOf(cells.placeOf('r'), cells.columnOf('a'))).toBe('2026-11-20')
  expect(cells.dueOf(cells.placeOf('p'), cells.columnOf('a'))).toBeNull()
  cells.put([cell('p', 'b', 12)])
  expect(cellsOf({ ...s, version: 2 })).toBe(cells)
  expect(cells.mark(cells.placeOf('p'), cells.columnOf('b'))).toBe(12)
})

test('averages and counts of a column: what is missing is in neither, what is pending is counted and has no mark', () => {
  const s = sheet()
  const cells = new Cells(s)
  expect(columnFigures(s.students, cells, 0, null)).toEqual({ mean: 8, marked: 1, of: 2, passed: null })
  expect(columnFigures(s.students, cells, 1, 13)).toEqual({ mean: null, marked: 0, of: 1, passed: 0 })
  cells.put([cell('p', 'b', 12)])
  expect(columnFigures(s.students, cells, 1, 13)).toEqual({ mean: 12, marked: 1, of: 1, passed: 0 })
  expect(columnFigures(s.students, cells, 1, 13, new Map([['p', 13.5]]))).toEqual({ mean: 13.5, marked: 1, of: 1, passed: 1 })
})
