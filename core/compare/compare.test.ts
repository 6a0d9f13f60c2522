import fc from 'fast-check'
import { compareGroups } from './compare-groups'
import { density } from './density'
import { describe as describeValues, quantile } from './describe'
import { histogram } from './histogram'

test('quantiles of type 7, as published for 1 to 4', () => {
  expect([0, 0.25, 0.5, 0.75, 1].map((p) => quantile([1, 2, 3, 4], p))).toEqual([1, 1.75, 2.5, 3.25, 4])
})

test('skewness as published for ten numbers', () => {
  expect(describeValues([3, 4, 5, 2, 3, 4, 5, 6, 4, 7]).skewness).toBeCloseTo(0.359543, 6)
})

test('what is undefined is null, never NaN or 0', () => {
  expect(describeValues([])).toEqual({ n: 0, mean: null, sd: null, min: null, q1: null, median: null, q3: null, max: null, skewness: null })
  expect(describeValues([5])).toMatchObject({ n: 1, mean: 5, sd: null, median: 5, skewness: null })
  expect(describeValues([5.1, 5.1, 5.1])).toMatchObject({ sd: 0, skewness: null })
})

test('bins are closed on the left, the last on both sides, and say who is in them', () => {
  const { bins, outside } = histogram([0, 9.99, 10, 20, 30, 31, -1], { from: 0, to: 30, width: 10 })
  expect(bins.map((b) => b.members)).toEqual([[0, 1], [2], [3, 4]])
  expect(outside).toEqual([5, 6])
})

test('every value is in just one bin, whatever the width', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 1000 }).map((n) => n / 10)), fc.constantFrom(0.1, 0.3, 2.5, 7, 10), (values, width) => {
      const { bins, outside } = histogram(values, { from: 0, to: 100, width })
      expect(outside).toEqual([])
      expect(bins.reduce((n, b) => n + b.count, 0)).toBe(values.length)
      bins.forEach((b, i) =>
        b.members.forEach((m) =>
          expect(values[m]! >= b.from && (i === bins.length - 1 ? values[m]! <= b.to : values[m]! < b.to)).toBe(true),
        ),
      )
    }),
  )
  expect(() => histogram([1], { from: 0, to: 0, width: 1 })).toThrow(RangeError)
})

// Student's sleep data (1908): Welch t = -1.8608, df = 17.776, p = 0.07939, 95% -3.3654832 to 0.2054832.
const drug1 = [0.7, -1.6, -0.2, -1.2, -0.1, 3.4, 3.7, 0.8, 0.0, 2.0]
const drug2 = [1.9, 0.8, 1.1, 0.1, -0.1, 4.4, 5.5, 1.6, 4.6, 3.4]

test('Welch on the sleep data, as published', () => {
  const [a, b] = compareGroups([
    { id: '1', values: drug1 },
    { id: '2', values: drug2 },
  ]).groups
  expect(a!.difference).toBeCloseTo(-1.58, 10)
  expect(a!.interval![0]).toBeCloseTo(-3.3654832, 6)
  expect(a!.interval![1]).toBeCloseTo(0.2054832, 6)
  expect(a!.p).toBeCloseTo(0.07939, 5)
  expect(b!.g).toBeCloseTo(-a!.g!, 12)
  expect(a!.pHolm).toBeCloseTo(2 * 0.07939, 4)
})

test('Kruskal–Wallis on the clearance data of Hollander & Wolfe (1973): H = 0.77143, p = 0.68', () => {
  const { kruskal } = compareGroups([
    { id: 'normal', values: [2.9, 3.0, 2.5, 2.6, 3.2] },
    { id: 'obstructive', values: [3.8, 2.7, 4.0, 2.4] },
    { id: 'asbestosis', values: [2.8, 3.4, 3.7, 2.2, 2.0] },
  ])
  expect(kruskal!.h).toBeCloseTo(0.77143, 5)
  expect(kruskal!.df).toBe(2)
  expect(kruskal!.p).toBeCloseTo(0.68, 3)
})

test('Cliff’s delta is what counting all pairs gives', () => {
  const numbers = fc.array(fc.integer({ min: 0, max: 12 }), { minLength: 1, maxLength: 9 })
  fc.assert(
    fc.property(numbers, numbers, (a, b) => {
      const pairs = a.flatMap((x) => b.map((y) => Math.sign(x - y)))
      const [first] = compareGroups([
        { id: 'a', values: a },
        { id: 'b', values: b },
      ]).groups
      expect(first!.delta).toBeCloseTo(pairs.reduce((s: number, x) => s + x, 0) / pairs.length, 12)
    }),
  )
})

test('groups without values or variation are told apart from level ones', () => {
  const { groups, kruskal } = compareGroups([
    { id: 'a', values: [] },
    { id: 'b', values: [5, 5] },
    { id: 'c', values: [5, 5] },
  ])
  expect(groups[0]).toMatchObject({ n: 0, difference: null, interval: null, p: null })
  expect(groups[1]).toMatchObject({ difference: 0, interval: null, g: null, delta: 0 })
  expect(kruskal).toBeNull()
})

test('a density has an area of one and is flat for no values', () => {
  const points = density([40, 55, 60, 61, 72], { from: 0, to: 120, points: 601 })
  expect(points.reduce((s, p) => s + p.y * 0.2, 0)).toBeCloseTo(1, 2)
  expect(density([], { from: 0, to: 1, points: 3 }).every((p) => p.y === 0)).toBe(true)
})
