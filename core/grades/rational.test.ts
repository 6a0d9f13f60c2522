import fc from 'fast-check'
import Fraction from 'fraction.js'
import { compare, minus, over, plus, rationalOf, roundHalfUp, roundToStep, times, toNumber } from './rational'

const decimals = fc.integer({ min: -200_000, max: 200_000 }).map((n) => n / 1000)
const exact = (x: number) => new Fraction(String(x))

test('agrees with a library of fractions on sums, products, quotients and order', () => {
  fc.assert(
    fc.property(decimals, decimals, (a, b) => {
      const [x, y] = [rationalOf(a), rationalOf(b)]
      expect(toNumber(plus(x, y))).toBe(exact(a).add(exact(b)).valueOf())
      expect(toNumber(minus(x, y))).toBe(exact(a).sub(exact(b)).valueOf())
      expect(toNumber(times(x, y))).toBe(exact(a).mul(exact(b)).valueOf())
      if (b !== 0) expect(toNumber(over(x, y))).toBe(exact(a).div(exact(b)).valueOf())
      expect(Math.sign(compare(x, y))).toBe(exact(a).compare(exact(b)))
    }),
  )
})

test('a mean of readings is the fraction it came from', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 2000 }), fc.constantFrom(3, 6, 7, 9, 11, 13), (n, d) => {
      expect(compare(rationalOf(n / d), over(rationalOf(n), rationalOf(d)))).toBe(0)
    }),
  )
})

test('halves go up, away from zero, and steps are met exactly', () => {
  const rounded = (x: number, places: number) => toNumber(roundHalfUp(rationalOf(x), places))
  expect([rounded(2.5, 0), rounded(-2.5, 0), rounded(89.45, 1), rounded(1.005, 2), rounded(0.4999, 0)]).toEqual([3, -3, 89.5, 1.01, 0])
  expect(toNumber(roundToStep(rationalOf(61.25), rationalOf(0.5)))).toBe(61.5)
})

test('very long fractions still come out as the nearest double', () => {
  let sum = rationalOf(0)
  for (let i = 1; i < 60; i++) sum = plus(sum, over(rationalOf(1), rationalOf(i)))
  expect(toNumber(sum)).toBeCloseTo(4.6632, 3)
  expect(toNumber(minus(rationalOf(0), sum))).toBe(-toNumber(sum))
})

test('no number, no rational', () => {
  expect(() => rationalOf(NaN)).toThrow(RangeError)
  expect(() => over(rationalOf(1), rationalOf(0))).toThrow(RangeError)
})
