import fc from 'fast-check'
import { stringify } from 'csv-stringify/sync'
import { FileError, readDelimited, rowFault, unguarded } from './delimited'
import { writeDelimited } from './write-delimited'
import { readWeekdays, writeWeekdays } from './weekdays'

const cell = fc.string({ maxLength: 12 }).map((s) => s.replace(/[\u0000-\u001f\u007f]/g, ' ').trim()) // eslint-disable-line no-control-regex
test('what a writer of CSV wrote is read, whatever separates its cells', () =>
  fc.assert(
    fc.property(
      fc.constantFrom(',', ';', '\t'),
      fc.array(fc.tuple(cell, cell, cell), { minLength: 1, maxLength: 8 }),
      fc.boolean(),
      (delimiter, rows, bom) => {
        const filled = rows.map((r) => [`x${r[0]}`, r[1], r[2]])
        const text = stringify([['one', 'two', 'three'], ...filled], { delimiter, bom, record_delimiter: 'windows' })
        const table = readDelimited(text)
        expect(table.header).toEqual(['one', 'two', 'three'])
        expect(table.rows.map((r) => r.cells)).toEqual(filled)
      },
    ),
  ))

test('lines are counted as an editor counts them', () => {
  const table = readDelimited('a,b\n1,"two\nlines"\n3,4\n')
  expect(table.rows.map((r) => r.line)).toEqual([3, 4])
})

test.each([
  ['', 'The file is empty.'],
  ['a\u0000b,c', 'not a text file'],
  ['alone\n1', 'no columns that can be told apart'],
  ['a,b', 'no row beneath it'],
  ['a,A\n1,2', 'Two columns are headed “a”'],
])('%j is refused with a sentence', (text, message) => {
  expect(() => readDelimited(text)).toThrow(FileError)
  expect(() => readDelimited(text)).toThrow(message)
})

test('a row with too many cells or too long a cell says so', () => {
  expect(rowFault(['a', 'b'], ['1', '2'])).toBeNull()
  expect(rowFault(['a', 'b'], ['1', '2', '3'])).toMatch(/This row has 3 cells, the heading has 2/)
  expect(rowFault(['a'], ['x'.repeat(2001)])).toMatch(/longer than 2000/)
})

test('weekdays are read from words and numbers and written as words', () => {
  expect(readWeekdays('Mon/Thursday')).toEqual([1, 4])
  expect(readWeekdays('5, 1')).toEqual([1, 5])
  expect(readWeekdays('')).toEqual([])
  expect(readWeekdays('m')).toBeNull()
  expect(readWeekdays('someday')).toBeNull()
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.integer({ min: 1, max: 7 })).map((d) => d.sort()),
      (days) => expect(readWeekdays(writeWeekdays(days))).toEqual(days),
    ),
  )
})

test('written as CSV and read again every cell is what it was, whatever a spreadsheet would make of it', () => {
  const cell = fc.oneof(
    fc.constantFrom('-1', "'-1", "''-1", '=1+1', '+49 30', '@home', '-Ann', "'tis", '\uFF1Dx', '-2.5', ''),
    fc.string({ maxLength: 8 }).map((s) => s.replaceAll(/[\r\n\uFEFF\uFFFD]/g, '').trim()),
  )
  fc.assert(
    fc.property(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 5 }), (rows) => {
      const kept = rows.filter((r) => r.some((c) => c !== ''))
      fc.pre(kept.length > 0)
      expect(unguarded(readDelimited(writeDelimited([['a', 'b'], ...kept]))).rows.map((r) => r.cells)).toEqual(kept)
    }),
  )
  expect(writeDelimited([['=x', '-1']], { bom: false })).toBe("'=x,-1\r\n")
})
