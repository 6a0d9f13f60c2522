import { readDelimited } from './delimited'
import { marksHeading } from './marks-match'
import { recogniseColumns, rollHeading } from './roll-file'

const roll = (lines: string) => readDelimited(lines, rollHeading({}))
const trimmed = ({ header, headingLine, rows }: ReturnType<typeof roll>) => ({ header, headingLine, first: rows[0]!.cells })

test('groups above, names beneath: a column named in one row alone has that name', () => {
  const table = roll('Field Mapping, autumn\n\nStudent,,Where,,\nnumber,name,section,from,to\n214-001,Aylin Or,ALI,2026-09-07,\n')
  expect(trimmed(table)).toEqual({
    header: ['number', 'name', 'section', 'from', 'to'],
    headingLine: 4,
    first: ['214-001', 'Aylin Or', 'ALI', '2026-09-07', ''],
  })
})

test('cells that go over both rows, and groups that fill only some columns', () => {
  const table = roll('number,name,section,Enrolled,\n,,,from,to\n214-001,Aylin Or,ALI,2026-09-07,2026-10-01\n')
  expect(trimmed(table)).toEqual({
    header: ['number', 'name', 'section', 'from', 'to'],
    headingLine: 1,
    first: ['214-001', 'Aylin Or', 'ALI', '2026-09-07', '2026-10-01'],
  })
  expect(recogniseColumns(table.header)).toMatchObject({ from: 3, to: 4 })
})

test('names that are there twice are told apart by their groups', () => {
  const table = roll('Student,,Class,\nnumber,name,section,name\n214-001,Aylin Or,ALI,Alidade\n')
  expect(table.header).toEqual(['number', 'Student name', 'section', 'Class name'])
})

test('one heading is one: a title above it names no column, and a row beneath it with gaps is a row', () => {
  const header = ['number', 'name', 'section', 'remark']
  expect(trimmed(roll('The whole roll\nnumber,name,section,remark\n,Aylin Or,,waits for a number\n'))).toMatchObject({
    header,
    first: ['', 'Aylin Or', '', 'waits for a number'],
  })
  expect(trimmed(roll('number,name,section,\n214-001,Aylin Or,ALI,note\n'))).toMatchObject({
    first: ['214-001', 'Aylin Or', 'ALI', 'note'],
  })
})

test('a sheet of marks as well', () => {
  const table = readDelimited('Candidate,Field work,\n,Map,Viva\n214-001,"12,5",8\n', marksHeading({}))
  expect([table.header, table.rows[0]!.cells]).toEqual([
    ['Candidate', 'Map', 'Viva'],
    ['214-001', '12,5', '8'],
  ])
})
