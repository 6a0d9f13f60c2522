import fc from 'fast-check'
import { readCellText, writeCellText } from './cell-text'

test.each([
  ['', { kind: 'blank' }],
  [' 17.5 ', { kind: 'mark', mark: 17.5, status: 'in', daysLate: 0 }],
  ['0', { kind: 'mark', mark: 0, status: 'in', daysLate: 0 }],
  ['.5', { kind: 'mark', mark: 0.5, status: 'in', daysLate: 0 }],
  ['Missing', { kind: 'status', status: 'missing' }],
  ['h', { kind: 'status', status: 'held' }],
  ['late', { kind: 'late', daysLate: 1 }],
  ['17 late 2', { kind: 'mark', mark: 17, status: 'late', daysLate: 2 }],
  ['17 LATE 3 days', { kind: 'mark', mark: 17, status: 'late', daysLate: 3 }],
])('%j is read', (text, want) => {
  expect(readCellText(text, 20)).toEqual(want)
})

test.each(['12,5', '85%', '20.5', '1O', '-1', '1.2345', '1e3', '0x10', 'latest', '--', 'NaN', '١٢'])(
  '%j is refused with a sentence',
  (text) => {
    const read = readCellText(text, 20)
    expect(read.kind).toBe('wrong')
    expect((read as { reason: string }).reason).toMatch(/\.$/)
  },
)

test('a deduction may be below 0 where it is allowed', () => {
  expect(readCellText('-2', 10, true)).toMatchObject({ mark: -2 })
})

test('what is written reads back the same', () => {
  const cell = fc.record({
    mark: fc.integer({ min: 0, max: 40 }).map((n) => n / 2),
    daysLate: fc.integer({ min: 1, max: 20 }),
    late: fc.boolean(),
  })
  fc.assert(
    fc.property(cell, ({ mark, daysLate, late }) => {
      const own = { mark, status: late ? ('late' as const) : ('in' as const), daysLate: late ? daysLate : 0 }
      expect(readCellText(writeCellText(own), 20)).toEqual({ kind: 'mark', ...own })
    }),
  )
})
