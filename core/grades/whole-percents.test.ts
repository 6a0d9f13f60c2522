import fc from 'fast-check'
import { wholePercents } from './whole-percents'

test('three equal parts are 34, 33 and 33, and nobody is 0', () => {
  expect(wholePercents([1, 1, 1])).toEqual([34, 33, 33])
  expect(wholePercents([0, 0])).toEqual([0, 0])
  // Rounded each on its own these are 101.
  expect(wholePercents([37, 58, 71, 48, 19])).toEqual([16, 25, 30, 21, 8])
})

test('they add up to 100, none is off its own share by 1 or more, more people never have fewer percents, and who is nobody has none', () => {
  const counts = fc.array(fc.nat({ max: 20_000 }), { minLength: 1, maxLength: 12 }).filter((all) => all.some((n) => n > 0))
  fc.assert(
    fc.property(counts, (all) => {
      const percents = wholePercents(all)
      const sum = all.reduce((s, n) => s + n, 0)
      expect(percents.reduce((s, n) => s + n, 0)).toBe(100)
      all.forEach((n, i) => {
        expect(Math.abs(percents[i]! * sum - n * 100)).toBeLessThan(sum)
        if (n === 0) expect(percents[i]).toBe(0)
        all.forEach((m, j) => m < n && expect(percents[j]).toBeLessThanOrEqual(percents[i]!))
      })
    }),
    { seed: 37 },
  )
})
