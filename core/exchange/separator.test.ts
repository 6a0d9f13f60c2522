import { parse } from 'csv-parse/sync'
import { readDelimited } from './delimited'
import { csvOf, writeDelimited } from './write-delimited'

test.each([
  ['decimal commas between semicolons', 'number;quiz;essay\n101;7,5;12,25\n102;8,5;13,75\n', ['101', '7,5', '12,25']],
  ['a heading with more commas than semicolons', 'number;quiz 1, part a, b and c;quiz 2, d\n101;7;8\n', ['101', '7', '8']],
  [
    'names with commas in quotation marks',
    'number,"name, given; in full",mark\n101,"Ostrand, Lea; Ann",7\n',
    ['101', 'Ostrand, Lea; Ann', '7'],
  ],
  ['names with bare commas between tabs', 'number\tname\tmark\n101\tOstrand, Lea\t7,5\n', ['101', 'Ostrand, Lea', '7,5']],
  ['quotation marks inside a cell', 'number;name;mark\n101;5" rule;7\n', ['101', '5" rule', '7']],
])('what separates cells is told by the heading and the rows: %s', (_, text, first) => {
  expect(readDelimited(text).rows[0]!.cells).toEqual(first)
})

test.each([
  ['a,b\n1,"x\n', 2, 'A quotation mark opens a cell, and none closes it before the file ends.'],
  [
    'a,b\n1,2\n1,"x" y\n',
    3,
    'Something stands after the quotation mark that closes a cell. A quotation mark inside a cell is written twice.',
  ],
])('a text that cannot be read says why in our own words, and in which line: %j', (text, line, message) => {
  expect(() => readDelimited(text)).toThrow(expect.objectContaining({ line, message }))
})

test('whatever breaks a line inside a cell stays inside its quotation marks, for a reader to whom each of them ends a row', () => {
  const rows = [
    ['remark', 'mark'],
    ['one\rtwo', '1'],
    ['one\ntwo', '2'],
    ['one\r\ntwo', '3'],
    ['said "so"', '4'],
  ]
  for (const text of [csvOf(rows), writeDelimited(rows, { bom: false })])
    expect(parse(text, { record_delimiter: ['\r\n', '\n', '\r'] })).toEqual(rows)
})
