import { byRow } from './by-row'

test('a row has what is told of its cells, and the same nothing as before where none is', () => {
  const typed = new Map([['ada paper', 20]])
  const [before, now] = [byRow(new Map<string, number>()), byRow(typed)]
  expect(now('ada')).toBe(typed)
  expect(now('bo')).toBe(before('bo'))
  expect(now('ad').size).toBe(0)
})
