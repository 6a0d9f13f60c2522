import { contains, spotsOf, stepped } from './selection'

const block = { from: { a: 2, s: 3 }, to: { a: 1, s: 5 } }
const size = { rows: 4, columns: 8 }

test('a block holds all between its corners, whichever way it was drawn', () => {
  expect(spotsOf(block)).toHaveLength(6)
  expect(spotsOf({ from: block.to, to: block.from })).toEqual(spotsOf(block))
  expect(contains(block, 1, 4)).toBe(true)
  expect(contains(block, 0, 4)).toBe(false)
  expect(contains(block, 2, 6)).toBe(false)
})

test('arrows move one cell, with Shift they reach further, and nothing leaves the board', () => {
  const at = { from: { a: 0, s: 0 }, to: { a: 0, s: 0 } }
  expect(stepped(at, 'ArrowDown', false, size)).toEqual({ from: { a: 1, s: 0 }, to: { a: 1, s: 0 } })
  expect(stepped(at, 'ArrowRight', true, size)).toEqual({ from: { a: 0, s: 0 }, to: { a: 0, s: 1 } })
  expect(stepped(at, 'ArrowUp', false, size)).toEqual(at)
  expect(stepped(at, 'End', false, size)!.to).toEqual({ a: 0, s: 7 })
  expect(stepped(block, 'Home', true, size)).toEqual({ from: block.from, to: { a: 1, s: 0 } })
  expect(stepped(at, 'x', false, size)).toBeNull()
})
