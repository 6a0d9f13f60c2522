import fc from 'fast-check'
import Fraction from 'fraction.js'
import { runs } from '../testing/runs'
import { AgreeError, agreeMark, spreadOf, withinTolerance, type AgreeRule } from './agree-mark'

const readings = [52, 71, 60].map((mark, i) => ({ markerId: `m${i}`, mark }))

test.each<[AgreeRule, number | null, number]>([
  [{ kind: 'mean' }, null, 61],
  [{ kind: 'median' }, null, 60],
  [{ kind: 'highest' }, null, 71],
  [{ kind: 'lowest' }, null, 52],
  [{ kind: 'first' }, null, 52],
  [{ kind: 'senior', markerId: 'm1' }, null, 71],
  [{ kind: 'value', mark: 58.3, reason: 'read again' }, null, 58.3],
  [{ kind: 'value', mark: 58.3, reason: 'read again' }, 0.5, 58.5],
  // 52 + 3, 71 − 6 and 60.
  [{ kind: 'levelled', leans: { m0: -3, m1: 6, m2: 0 }, outOf: 100 }, null, 60],
  [{ kind: 'levelled', leans: { m0: -90, m1: -90, m2: -90 }, outOf: 100 }, null, 100],
  [{ kind: 'levelled', leans: { m0: 90, m1: 90, m2: 90 }, outOf: 100 }, null, 0],
  [{ kind: 'criteria', picks: { line: 6 }, mark: 61.25, reason: '' }, 0.5, 61.5],
])('%j in steps of %p gives %p', (rule, step, mark) => {
  expect(agreeMark(readings, rule, step)).toEqual({ mark, spread: 19 })
})

test('a mean is exact and its half goes up to the step', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.integer({ min: 0, max: 200 }).map((n) => n / 2),
        { minLength: 1, maxLength: 4 },
      ),
      (marks) => {
        const own = marks.map((mark, i) => ({ markerId: String(i), mark }))
        const mean = marks.reduce((s, m) => s.add(String(m)), new Fraction(0)).div(marks.length)
        expect(agreeMark(own, { kind: 'mean' }).mark).toBe(mean.valueOf())
        expect(agreeMark(own, { kind: 'mean' }, 0.5).mark).toBe(mean.mul(2).add('1/2').floor().div(2).valueOf())
      },
    ),
  )
})

test('what cannot be settled is said', () => {
  expect(() => agreeMark([], { kind: 'mean' })).toThrow(AgreeError)
  expect(() => agreeMark(readings, { kind: 'senior', markerId: 'x' })).toThrow(/has not read/)
  expect(() => agreeMark(readings, { kind: 'levelled', leans: { m0: 1, m1: 0 }, outOf: 100 })).toThrow(/cannot be told/)
  expect(() => agreeMark(readings, { kind: 'value', mark: 5, reason: ' ' })).toThrow(/needs a reason/)
})

test('a spread is compared on decimals', () => {
  expect(
    spreadOf([
      { markerId: 'a', mark: 0.3 },
      { markerId: 'b', mark: 0.1 },
    ]),
  ).toBe(0.2)
  expect(spreadOf([{ markerId: 'a', mark: 0.3 }])).toBeNull()
  expect(withinTolerance(0.30000000000000004 - 0.1, 0.2)).toBe(true)
  expect(withinTolerance(9.01, 9)).toBe(false)
})

test('a spread is the decimal nearest to what lies between, however many decimals marks have', () => {
  const decimals = fc
    .integer({ min: 0, max: 5 })
    .chain((places) => fc.integer({ min: 0, max: 100 * 10 ** places }).map((n) => ({ n, d: 10 ** places })))
  fc.assert(
    fc.property(decimals, decimals, (a, b) => {
      const spread = new Fraction(a.n, a.d).sub(new Fraction(b.n, b.d)).abs().valueOf()
      expect(spreadOf([a, b].map((x, i) => ({ markerId: `m${i}`, mark: x.n / x.d })))).toBe(spread)
    }),
    { numRuns: runs(500) },
  )
})
