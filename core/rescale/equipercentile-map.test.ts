import fc from 'fast-check'
import Fraction from 'fraction.js'
import { equipercentileMap, frequenciesOf } from './equipercentile-map'

test('a worked example: mid-percentiles on both sides, straight between them, constant outside', () => {
  // From 1, 2, 2, 3: mid-percentiles 1/8, 1/2, 7/8. To 10, 20: 1/4, 3/4.
  const map = equipercentileMap([1, 2, 2, 3], [10, 20])
  expect([0, 1, 1.5, 2, 2.5, 3, 9].map(map)).toEqual([10, 10, 11.25, 15, 18.75, 20, 20])
})

test('a sample matched to itself stays what it is', () =>
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 1, maxLength: 30 }), (marks) => {
      const map = equipercentileMap(marks, marks)
      for (const m of marks) expect(map(m)).toBe(m)
    }),
  ))

const samples = fc.tuple(
  fc.array(fc.integer({ min: 0, max: 20 }), { minLength: 1, maxLength: 20 }),
  fc.array(fc.integer({ min: 0, max: 30 }), { minLength: 1, maxLength: 20 }),
)

test('a higher mark never becomes a lower one, and nothing leaves the range of the target', () =>
  fc.assert(
    fc.property(samples, ([from, to]) => {
      const map = equipercentileMap(from, to)
      const out = Array.from({ length: 41 }, (_, i) => map(i / 2))
      for (const [i, y] of out.entries()) {
        expect(y).toBeGreaterThanOrEqual(Math.min(...to))
        expect(y).toBeLessThanOrEqual(Math.max(...to))
        if (i > 0) expect(y).toBeGreaterThanOrEqual(out[i - 1]!)
      }
    }),
  ))

test('held against the definition in exact fractions', () =>
  fc.assert(
    fc.property(samples, fc.integer({ min: -1, max: 21 }), ([from, to], x) => {
      const ranks = (sample: number[]) =>
        [...new Set(sample)]
          .sort((a, b) => a - b)
          .map((v) => ({
            v: new Fraction(v),
            p: new Fraction(sample.filter((s) => s < v).length * 2 + sample.filter((s) => s === v).length, sample.length * 2),
          }))
      const [f, q] = [ranks(from), ranks(to)]
      const line = (a: Fraction, b: Fraction, c: Fraction, d: Fraction, at: Fraction) => c.add(d.sub(c).mul(at.sub(a)).div(b.sub(a)))
      const at = new Fraction(x)
      const k = f.findIndex((r) => at.compare(r.v) <= 0)
      const p = k === -1 ? f.at(-1)!.p : k === 0 ? f[0]!.p : line(f[k - 1]!.v, f[k]!.v, f[k - 1]!.p, f[k]!.p, at)
      const j = q.findIndex((r) => p.compare(r.p) <= 0)
      const y = j === -1 ? q.at(-1)!.v : j === 0 ? q[0]!.v : line(q[j - 1]!.p, q[j]!.p, q[j - 1]!.v, q[j]!.v, p)
      expect(equipercentileMap(from, to)(x)).toBeCloseTo(y.valueOf(), 12)
    }),
  ))

test('frequencies stand from low to high; matching with nobody is refused', () => {
  expect(frequenciesOf([3, 1, 3])).toEqual([
    [1, 1],
    [3, 2],
  ])
  expect(() => equipercentileMap([], [1])(0)).toThrow(/marks on both sides/)
})
