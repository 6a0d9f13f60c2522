import fc from 'fast-check'
import { FOUR_JUDGES } from '../testing/published'
import { agreement } from './agreement'
import { intraclassCorrelation } from './intraclass'
import { weightedKappa } from './weighted-kappa'

/** Lists of pairs from a table of counts. */
function pairs(table: number[][]): [number[], number[]] {
  const cells = table.flatMap((row, i) => row.flatMap((n, j) => Array.from({ length: n }, () => [i, j] as const)))
  return [cells.map((c) => c[0]), cells.map((c) => c[1])]
}

test('unweighted kappa of the table in Cohen 1968: 0.492', () => {
  const [a, b] = pairs([
    [88, 14, 18],
    [10, 40, 10],
    [2, 6, 12],
  ])
  const found = weightedKappa(a, b, { weights: 'none' })
  expect(found.n).toBe(200)
  expect(found.observed).toBeCloseTo(0.7, 10)
  expect(found.expected).toBeCloseTo(0.41, 10)
  expect(found.kappa).toBeCloseTo(0.492, 3)
})

test('the interval of unweighted kappa in Fleiss, Cohen and Everitt 1969: 0.429, variance 0.002885', () => {
  const [a, b] = pairs([
    [106, 10, 4],
    [22, 28, 10],
    [2, 12, 6],
  ])
  const { kappa, interval } = weightedKappa(a, b, { weights: 'none' })
  expect(kappa).toBeCloseTo(0.429, 3)
  const [low, high] = interval!
  expect(((high - low) / 2 / 1.96) ** 2).toBeCloseTo(0.002885, 6)
})

test('the interval with weights is what the bands’ shares give by the formula as it was printed', () =>
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(3), fc.nat(3)), { minLength: 3, maxLength: 30 }), (list) => {
      const [a, b] = [list.map((x) => x[0]), list.map((x) => x[1])]
      const { kappa, interval } = weightedKappa(a, b, { weights: 'linear' })
      if (kappa === null || interval === null) return
      const [n, most] = [list.length, Math.max(...a, ...b)]
      const weight = (i: number, j: number) => 1 - Math.abs(i - j) / most
      const bands = [0, 1, 2, 3]
      const p = (i: number, j: number) => list.filter((x) => x[0] === i && x[1] === j).length / n
      const row = (i: number) => a.filter((x) => x === i).length / n
      const column = (j: number) => b.filter((x) => x === j).length / n
      const sum = (f: (i: number, j: number) => number) => bands.reduce((s, i) => s + bands.reduce((t, j) => t + f(i, j), 0), 0)
      const chance = sum((i, j) => weight(i, j) * row(i) * column(j))
      const w1 = (i: number) => bands.reduce((s, j) => s + column(j) * weight(i, j), 0)
      const w2 = (j: number) => bands.reduce((s, i) => s + row(i) * weight(i, j), 0)
      const inner = sum((i, j) => p(i, j) * (weight(i, j) - (w1(i) + w2(j)) * (1 - kappa)) ** 2)
      const half = (1.96 * Math.sqrt(Math.max(0, inner - (kappa - chance * (1 - kappa)) ** 2) / n)) / (1 - chance)
      expect(interval[0]).toBeCloseTo(Math.max(-1, kappa - half), 6)
      expect(interval[1]).toBeCloseTo(Math.min(1, kappa + half), 6)
    }),
  ))

const band = fc.integer({ min: 0, max: 5 })
test('with quadratic weights kappa is twice the covariance over the variances and the squared difference of means', () =>
  fc.assert(
    fc.property(fc.array(fc.tuple(band, band), { minLength: 2, maxLength: 40 }), (list) => {
      const [a, b] = [list.map((x) => x[0]), list.map((x) => x[1])]
      const { kappa } = weightedKappa(a, b, { weights: 'quadratic' })
      const mean = (x: number[]) => x.reduce((s, v) => s + v, 0) / x.length
      const moment = (x: number[], y: number[]) => mean(x.map((v, i) => (v - mean(x)) * (y[i]! - mean(y))))
      const below = moment(a, a) + moment(b, b) + (mean(a) - mean(b)) ** 2
      if (below < 1e-12) expect(kappa).toBeNull()
      else expect(kappa).toBeCloseTo((2 * moment(a, b)) / below, 9)
    }),
  ))

test('kappa does not ask who comes first, is 1 for the same bands, and undefined without variation', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(band, band), { minLength: 1 }),
      fc.constantFrom('quadratic' as const, 'linear' as const, 'none' as const),
      (list, weights) => {
        const [a, b] = [list.map((x) => x[0]), list.map((x) => x[1])]
        const one = weightedKappa(a, b, { weights }).kappa
        const other = weightedKappa(b, a, { weights }).kappa
        if (one === null) expect(other).toBeNull()
        else expect(other).toBeCloseTo(one, 12)
        const same = weightedKappa(a, a, { weights })
        expect(same.kappa).toBe(new Set(a).size === 1 ? null : 1)
      },
    ),
  )
  expect(weightedKappa([], [], { weights: 'none' }).reason).toMatch(/no script/)
  expect(() => weightedKappa([1], [], { weights: 'none' })).toThrow('the same scripts')
  expect(() => weightedKappa([1.5], [1], { weights: 'none' })).toThrow('whole numbers')
})

test('agreement counts on decimals, with limits of agreement', () => {
  const found = agreement([10, 12.3, 8, 15], [10, 12.2, 9, 12], { tolerance: 0.1 })
  expect(found).toMatchObject({ n: 4, exact: 0.25, within: 0.5 })
  expect(found.mean).toBeCloseTo(0.525, 10)
  expect(found.sd).toBeCloseTo(1.723, 3)
  expect(found.limits![0]).toBeCloseTo(0.525 - 1.96 * found.sd!, 10)
  expect(agreement([0.3], [0.2], { tolerance: 0.1 })).toMatchObject({ within: 1, sd: null, limits: null })
  expect(agreement([], [], { tolerance: 1 })).toMatchObject({ n: 0, exact: null })
})

test.each([
  ['(1,1)', 0.17, -0.13, 0.72],
  ['(2,1)', 0.29, 0.02, 0.76],
  ['(3,1)', 0.71, 0.34, 0.95],
  ['(1,k)', 0.44, -0.88, 0.91],
  ['(2,k)', 0.62, 0.07, 0.93],
  ['(3,k)', 0.91, 0.68, 0.99],
])('ICC%s of Shrout and Fleiss’s table', (form, value, low, high) => {
  const found = intraclassCorrelation(FOUR_JUDGES).find((x) => x.form === form)!
  expect(found.value).toBeCloseTo(value, 2)
  expect(found.interval![0]).toBeCloseTo(low, 2)
  expect(found.interval![1]).toBeCloseTo(high, 2)
})

test('what cannot be reckoned says why', () => {
  expect(intraclassCorrelation([[1, 2]])[0]!.reason).toMatch(/at least two scripts/)
  expect(
    intraclassCorrelation([
      [3, 3],
      [3, 3],
    ])[1],
  ).toMatchObject({ value: null, reason: 'all marks are the same: there is no variation' })
  expect(() => intraclassCorrelation([[1, 2], [1]])).toThrow('Every marker')
})

test('a shift of one marker leaves consistency and lowers absolute agreement', () =>
  fc.assert(
    fc.property(
      fc.array(fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 3, maxLength: 3 }), { minLength: 4, maxLength: 12 }),
      (m) => {
        const value = (form: string, of: number[][]) => intraclassCorrelation(of).find((x) => x.form === form)!.value
        const shifted = m.map(([a, b, c]) => [a! + 40, b!, c!])
        const [before, after] = [value('(3,1)', m), value('(3,1)', shifted)]
        fc.pre(before !== null && after !== null)
        expect(after).toBeCloseTo(before!, 8)
      },
    ),
  ))
