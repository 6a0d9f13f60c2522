import fc from 'fast-check'
import { runs } from '../testing/runs'
import { mean } from 'd3-array'
import { Distinct, resampledInterval, resampledIntervals } from './resampled'

const DRAWS = { seed: 7, draws: 2000 }
const meanOf = (values: readonly number[]) => (drawn: Int32Array) => mean(drawn, (i) => values[i]!)!

test('the mean of many lies within about two standard errors of it, as the normal table has it', () => {
  const values = Array.from({ length: 400 }, (_, i) => i % 20)
  const sd = Math.sqrt(mean(values, (v) => (v - 9.5) ** 2)!)
  const [low, high] = resampledInterval(values.length, meanOf(values), DRAWS)!
  const reach = 1.96 * (sd / Math.sqrt(values.length))
  expect(low).toBeCloseTo(9.5 - reach, 1)
  expect(high).toBeCloseTo(9.5 + reach, 1)
})

test('the same seed draws the same samples, another one others; all figures are of the same samples', () => {
  const values = [3, 1, 4, 1, 5, 9, 2, 6]
  const of = (seed: number) => resampledInterval(values.length, meanOf(values), { seed, draws: 50 })
  expect(of(1)).toEqual(of(1))
  expect(of(1)).not.toEqual(of(2))
  const both = resampledIntervals(values.length, 2, (drawn) => [meanOf(values)(drawn), -meanOf(values)(drawn)], { seed: 1, draws: 50 })
  expect(both[1]).toEqual([-both[0]![1], -both[0]![0]])
})

test('what is not defined in one sample of five has no interval, in one of twenty it has; without samples there is none', () => {
  let n = 0
  const every = (nth: number) => () => (n++ % nth === 0 ? null : 1)
  expect(resampledInterval(3, every(5), { seed: 1, draws: 100 })).toBeNull()
  expect(resampledInterval(3, every(20), { seed: 1, draws: 100 })).toEqual([1, 1])
  expect(resampledInterval(3, () => 1, { seed: 1, draws: 0 })).toBeNull()
})

test('counted by value, a sample holds what it holds drawn one by one', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 0, max: 5 }), { minLength: 1, maxLength: 30 }),
      fc.array(fc.nat(), { maxLength: 40 }),
      (values, picks) => {
        const sorted = values.toSorted((a, b) => a - b)
        const places = Int32Array.from(picks, (p) => p % sorted.length)
        const distinct = new Distinct(sorted)
        const counts = distinct.drawn(places)
        for (const [at, value] of distinct.values.entries()) {
          expect(counts[at]).toBe([...places].filter((i) => sorted[i] === value).length)
          expect(distinct.counts[at]).toBe(sorted.filter((x) => x === value).length)
        }
        expect(distinct.values).toEqual([...new Set(sorted)])
      },
    ),
    { numRuns: runs(200) },
  )
})
