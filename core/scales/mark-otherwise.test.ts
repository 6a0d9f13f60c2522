import { markGranting, markWithout } from './mark-otherwise'

const CRITERIA = [
  { id: 'a', max: 10, penalty: false },
  { id: 'b', max: 6, penalty: false },
  { id: 'c', max: 4, penalty: false },
  { id: 'late', max: 5, penalty: true },
]
const PICKS = { a: 7, b: 1, c: 4, late: 2 }

test('without a criterion the total is over what is left; penalties are still taken off', () => {
  // (7 + 4 − 2) of 14, out of 70.
  expect(markWithout(CRITERIA, PICKS, ['b'], 70)).toBe(45)
  expect(markWithout(CRITERIA, PICKS, ['late'], 20)).toBe(12)
  expect(markWithout(CRITERIA, PICKS, ['a', 'b', 'c'], 20)).toBeNull()
})

test('given to all it counts in full, whatever was given; of a penalty nothing is taken off', () => {
  expect(markGranting(CRITERIA, PICKS, ['b'], 20)).toBe(15)
  expect(markGranting(CRITERIA, {}, ['a'], 20)).toBe(10)
  expect(markGranting(CRITERIA, PICKS, ['late'], 20)).toBe(12)
})

test('never below nothing, and a third stays a third', () => {
  expect(markWithout(CRITERIA, { late: 5 }, ['a'], 10)).toBe(0)
  expect(markWithout([{ id: 'x', max: 3, penalty: false }], { x: 1 }, [], 10)).toBe(10 / 3)
})
