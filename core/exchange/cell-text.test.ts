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

test.each(['85%', '20.5', '1O', '-1', '1.2345', '1e3', '0x10', 'latest', '--', 'NaN', '١٢'])('%j is refused with a sentence', (text) => {
  const read = readCellText(text, 20)
  expect(read.kind).toBe('wrong')
  expect((read as { reason: string }).reason).toMatch(/\.$/)
})

describe('labels of a scale', () => {
  const scale = {
    labels: [
      { label: 'A', percent: 94, threshold: 90 },
      { label: 'sound', percent: 62, threshold: 55 },
      { label: 'strong', percent: 76, threshold: 70 },
    ],
  }
  test.each([
    ['sound', 24.8],
    ['so', 24.8],
    ['STRONG', 30.4],
    ['a', 37.6],
    ['31', 31],
  ])('%s of 40 is %d', (text, mark) =>
    expect(readCellText(text, 40, false, scale)).toEqual({ kind: 'mark', mark, status: 'in', daysLate: 0 }),
  )
  test('with days late; a status by its word where a label has its letter', () => {
    expect(readCellText('sound late 2', 40, false, scale)).toEqual({ kind: 'mark', mark: 24.8, status: 'late', daysLate: 2 })
    expect(readCellText('absent', 40, false, scale)).toEqual({ kind: 'status', status: 'absent' })
    expect(readCellText('m', 40, false, scale)).toEqual({ kind: 'status', status: 'missing' })
  })
  test('what begins two labels, or none, is refused with the labels named', () => {
    for (const text of ['s', 'splendid'])
      expect(readCellText(text, 40, false, scale)).toMatchObject({
        kind: 'wrong',
        reason: expect.stringContaining('A, sound, strong') as string,
      })
  })
  test('without a scale a label is no mark', () => expect(readCellText('sound', 40).kind).toBe('wrong'))
})

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

describe('late by a day', () => {
  const term = { firstDay: '2026-09-07', lastDay: '2026-12-18' }
  const read = (text: string, due: string | null = '2026-11-20') => readCellText(text, 30, false, null, { due, term })

  test('the day it came stands for the days since it was due', () => {
    expect(read('17 late 24 Nov')).toEqual({ kind: 'mark', mark: 17, status: 'late', daysLate: 4 })
    expect(read('late 2026-11-21')).toEqual({ kind: 'late', daysLate: 1 })
    expect(read('17.5 l 3')).toEqual({ kind: 'mark', mark: 17.5, status: 'late', daysLate: 3 })
  })

  test.each([
    ['17 late 20 Nov', '2026-11-20', /^20 Nov 2026 is not after the due day, 20 Nov 2026/],
    ['17 late 24 Nov', null, /^No due day is set here/],
    ['17 late soon', '2026-11-20', /neither days nor a day/],
    ['17 late w6', '2026-11-20', /neither days nor a day/],
  ])('%s, due %s, is refused in words', (text, due, reason) => {
    expect(read(text, due)).toEqual({ kind: 'wrong', reason: expect.stringMatching(reason) })
  })

  test('without a calendar a day is not understood', () => {
    expect(readCellText('17 late 24 Nov', 30)).toEqual({ kind: 'wrong', reason: '“24 nov” is not a number of days: write late 2.' })
  })
})

test('a decimal comma is a point, unless it may as well part thousands', () => {
  expect(readCellText('17,5', 20)).toEqual({ kind: 'mark', mark: 17.5, status: 'in', daysLate: 0 })
  expect(readCellText('17,25 late 2', 20)).toEqual({ kind: 'mark', mark: 17.25, status: 'late', daysLate: 2 })
  expect(readCellText('17,2555', 20)).toMatchObject({ kind: 'wrong', reason: expect.stringContaining('more than 3 decimals') as string })
  expect(readCellText('1,500', 2000)).toMatchObject({ kind: 'wrong', reason: '“1,500” can be read in two ways: write 1.500, or 1500.' })
  expect(readCellText('1,5', 2000)).toMatchObject({ kind: 'mark', mark: 1.5 })
})
