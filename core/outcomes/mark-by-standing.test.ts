import { markByStanding, percentsInProportion } from './mark-by-standing'

test('a level is worth its percent of the maximum, and nothing where there is not enough evidence', () => {
  const percents = [0, 45, 62.5, 100]
  expect([1, 2, 3, 4].map((level) => markByStanding(level, percents, 35))).toEqual([0, 15.75, 21.875, 35])
  expect(markByStanding(null, percents, 35)).toBeNull()
  // A level that the outcome has come to have since is worth nothing that was said.
  expect(markByStanding(5, percents, 35)).toBeNull()
  expect(markByStanding(2, [0, 33.3, 100], 7)).toBe(2.331)
})

test.each([
  [1, [100]],
  [2, [0, 100]],
  [4, [0, 33.3, 66.7, 100]],
])('%i levels in proportion', (levels, percents) => {
  expect(percentsInProportion(levels)).toEqual(percents)
})
