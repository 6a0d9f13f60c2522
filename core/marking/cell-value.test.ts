import { readCellText } from '../exchange/cell-text'
import { cellAfter, withStatus, type CellValue } from './cell-value'

const was: CellValue = { mark: 17, status: 'in', daysLate: 0 }
const after = (text: string) => cellAfter(was, readCellText(text, 20, true))

test.each([
  ['12', { mark: 12, status: 'in', daysLate: 0 }],
  ['-2', { mark: -2, status: 'in', daysLate: 0 }],
  ['12 late 2', { mark: 12, status: 'late', daysLate: 2 }],
  // What is held, or came late, is work: its mark stays.
  ['held', { mark: 17, status: 'held', daysLate: 0 }],
  ['late 3', { mark: 17, status: 'late', daysLate: 3 }],
  ['missing', { mark: null, status: 'missing', daysLate: 0 }],
  ['absent', { mark: null, status: 'absent', daysLate: 0 }],
  ['exempt', { mark: null, status: 'exempt', daysLate: 0 }],
] as const)('“%s” means the same however it comes in', (text, value) => expect(after(text)).toEqual(value))

test('a blank, and what cannot be read, say nothing of the cell', () => {
  expect([after(''), after('nonsense')]).toEqual([null, null])
})

test('days late belong to what is late alone', () => {
  expect(withStatus({ mark: 9, status: 'late', daysLate: 4 }, 'in', 4)).toEqual({ mark: 9, status: 'in', daysLate: 0 })
})
