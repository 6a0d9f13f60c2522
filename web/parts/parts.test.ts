import fc from 'fast-check'
import { columnCounts, stackDots } from './dots'
import { counted, DASH, fixed, numeral, pointsGiven, share, signed, typedNumber } from './format'
import { tickStep } from './ticks'

test('each person is a dot; those of a column stand on each other', () => {
  const people = [52, 57.5, 50, 61].map((value, i) => ({ id: `p${i}`, value }))
  expect(stackDots(people, 5)).toEqual([
    { x: 52.5, y: 1, id: 'p0' },
    { x: 57.5, y: 1, id: 'p1' },
    { x: 52.5, y: 2, id: 'p2' },
    { x: 62.5, y: 1, id: 'p3' },
  ])
})

test('the columns’ counts are as many people as lie on the axis', () =>
  fc.assert(
    fc.property(fc.array(fc.double({ min: -20, max: 140, noNaN: true })), fc.constantFrom(1, 2.5, 5), (values, width) => {
      const counts = columnCounts(values, width, 0, 100)
      expect(counts).toHaveLength(100 / width)
      expect(counts.reduce((n, c) => n + c.n, 0)).toBe(values.filter((v) => Math.floor(v / width) >= 0 && v < 100).length)
    }),
  ))

test('an axis has at most ten parts, of a plain step', () =>
  fc.assert(
    fc.property(fc.double({ min: 1, max: 1000, noNaN: true }), (top) => {
      expect(top / tickStep(top)).toBeLessThanOrEqual(10 + 1e-9)
      expect(top / tickStep(top)).toBeGreaterThanOrEqual(1)
    }),
  ))

test('figures as people read them; what is undefined is a dash and never a zero', () => {
  for (const said of [fixed(null), fixed(undefined), numeral(null), signed(null), share(null)]) expect(said).toBe(DASH)
  expect([fixed(-1.25, 1), fixed(2, 2), numeral(2.5), numeral(-0.3333333), numeral(12)]).toEqual(['−1.3', '2.00', '2.5', '−0.333', '12'])
  // A sum of doubles a hair below the half that it is.
  expect([fixed(60.74999999999999), fixed(60.75), fixed(1.005, 2)]).toEqual(['60.8', '60.8', '1.01'])
  expect([signed(1.04), signed(-2), signed(0)]).toEqual(['+1.0', '−2.0', '0.0'])
  expect([share(0.125), counted(1, 'script'), counted(0, 'script'), counted(2, 'criterion', 'criteria')]).toEqual([
    '13%',
    '1 script',
    '0 scripts',
    '2 criteria',
  ])
})

test.each([
  ['7', 7],
  [' 7.5 ', 7.5],
  ['7,5', 7.5],
  ['.5', 0.5],
  ['−2', -2],
  ['-2', -2],
  ['', null],
  ['7.5.1', null],
  ['1e3', null],
  ['seven', null],
])('typed “%s” is %p', (text, number) => expect(typedNumber(text)).toBe(number))

test('points of a penalty stand with the minus that they count with', () => {
  expect([2, 0, undefined].map((p) => pointsGiven({ penalty: true }, p))).toEqual(['−2', '0', '–'])
  expect(pointsGiven({}, 2)).toBe('2')
})
