import { keepLatest } from './keep-latest'

test('what was used longest ago goes first, and what is used again stays', () => {
  const kept = new Map<string, number>()
  for (const key of ['a', 'b', 'a', 'c']) keepLatest(kept, key, key.charCodeAt(0), 2)
  expect([...kept]).toEqual([
    ['a', 97],
    ['c', 99],
  ])
})
