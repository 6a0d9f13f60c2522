import { seeded } from '../share/seeded'
import { markerEffects } from './marker-effects'
import { markerFit } from './marker-fit'
import { notBelowZero } from './not-below-zero'
import type { ReadingSet } from './reading-set'

type Row = [script: number, marker: number, mark: number]
const setOf = (rows: readonly Row[], markers: number): ReadingSet => ({
  script: rows.map((r) => r[0]),
  marker: rows.map((r) => r[1]),
  mark: rows.map((r) => r[2]),
  scripts: Math.max(...rows.map((r) => r[0])) + 1,
  markers,
})
const fitOf = (set: ReadingSet) => markerFit(set, markerEffects(set)!)

/** Standard normal draws, the same every time. */
function normals(seed: number): () => number {
  const random = seeded(seed)
  return () => Math.sqrt(-2 * Math.log((random.below(1e9) + 0.5) / 1e9)) * Math.cos((2 * Math.PI * random.below(1e9)) / 1e9)
}
/** Scripts of four markers, each read by the pairs or threes given; marker m errs with an sd of its own. */
function drawn(scripts: number, readers: (script: number) => number[], sds: readonly number[], lean = [0, 1, -2, 0.5]): ReadingSet {
  const draw = normals(7)
  return setOf(
    Array.from({ length: scripts }, (_, s) => {
      const own = 50 + 10 * draw()
      return readers(s).map((m): Row => [s, m, own + lean[m]! + sds[m]! * draw()])
    }).flat(),
    sds.length,
  )
}
const PAIRS = [
  [0, 1],
  [1, 2],
  [2, 3],
  [3, 0],
  [0, 2],
  [1, 3],
]
const inTurn = (s: number) => PAIRS[s % PAIRS.length]!

// Grubbs 1948: with three who all read everything, σ₁² = (V₁₂ + V₁₃ − V₂₃)/2, V being the variance of differences.
test('three who read every script have the variances of Grubbs', () => {
  const set = drawn(60, () => [0, 1, 2], [1, 2, 3])
  const marks = [0, 1, 2].map((m) => Array.from(set.mark).filter((_, i) => i % 3 === m))
  const v = (a: number, b: number) => {
    const d = marks[a]!.map((x, i) => x - marks[b]![i]!)
    const mean = d.reduce((s, x) => s + x, 0) / d.length
    return d.reduce((s, x) => s + (x - mean) ** 2, 0) / d.length
  }
  const grubbs = [(v(0, 1) + v(0, 2) - v(1, 2)) / 2, (v(0, 1) + v(1, 2) - v(0, 2)) / 2, (v(0, 2) + v(1, 2) - v(0, 1)) / 2]
  const fit = fitOf(set)
  fit.forEach((f, m) => expect(f.sd! ** 2).toBeCloseTo(grubbs[m]!, 8))
  // Both others have as many pairs, so they weigh the same.
  expect(fit[2]!.spread).toBeCloseTo(Math.sqrt(grubbs[2]! / ((grubbs[0]! + grubbs[1]!) / 2)), 8)
})

test('twice as uneven is near 2 and erratic, with an interval; leaning is not', () => {
  const fit = fitOf(drawn(480, inTurn, [2, 2, 4, 2]))
  expect(fit[2]!.spread).toBeGreaterThan(1.7)
  expect(fit[2]!.spread).toBeLessThan(2.4)
  expect(fit[2]!.interval![0]).toBeGreaterThan(1.4)
  expect(fit.map((f) => f.erratic)).toEqual([false, false, true, false])
  expect(fitOf(drawn(480, inTurn, [2, 2, 2, 2], [0, 0, 9, 0])).map((f) => f.erratic)).toEqual([false, false, false, false])
})

test('scripts that were read once say nothing: with hundreds of them the spreads stay as they are', () => {
  const twice = drawn(120, inTurn, [2, 2, 3, 2])
  const effects = markerEffects(twice)!
  const draw = normals(3)
  const once = Array.from({ length: 600 }, (_, i): Row => [120 + i, i % 3, 50 + 10 * draw()])
  const rows = Array.from(twice.mark, (mark, i): Row => [twice.script[i]!, twice.marker[i]!, mark])
  expect(markerFit(setOf([...rows, ...once], 4), effects)).toEqual(markerFit(twice, effects))
})

test('a spread that few pairs show is not called erratic, and below twenty pairs nothing is said', () => {
  const few = fitOf(drawn(36, inTurn, [2, 2, 2, 2]))
  expect(few.map((f) => [f.pairs, f.sd, f.why])).toEqual(few.map(() => [18, null, 'too few read twice']))
  // By the sds alone 1.5 times the others; of 20 pairs that may be chance.
  const some = fitOf(drawn(48, inTurn, [2, 2, 3, 2]))
  for (const f of some) if (f.erratic) expect(f.interval![0]).toBeGreaterThan(1)
  expect(some.every((f) => f.interval![0] < f.spread! && f.spread! < f.interval![1])).toBe(true)
})

test.each([
  ['two markers', () => [0, 1]],
  ['a star', (s: number) => [0, 1 + (s % 3)]],
  ['a chain', (s: number) => [s % 3, (s % 3) + 1]],
  ['a ring of four', (s: number) => [s % 4, (s + 1) % 4]],
])('%s: a variance could as well be the other’s, so none is told', (_, readers) => {
  const fit = fitOf(drawn(240, readers, [2, 2, 4, 2]))
  for (const f of fit.filter((x) => x.pairs > 0))
    expect(f).toMatchObject({ sd: null, spread: null, erratic: false, why: 'cannot be told apart' })
})

test('no variance lies below 0, and the others are the best that is left', () => {
  // Judge: all choices of which are 0.
  const draw = normals(11)
  for (let round = 0; round < 200; round++) {
    const rows = Array.from({ length: 7 }, () => [draw(), draw(), draw()])
    const y = rows.map(() => draw())
    const a = new Float64Array(9).map((_, i) => rows.reduce((s, r) => s + r[Math.floor(i / 3)]! * r[i % 3]!, 0))
    const b = new Float64Array(3).map((_, i) => rows.reduce((s, r, n) => s + r[i]! * y[n]!, 0))
    const cost = (x: ArrayLike<number>) => rows.reduce((s, r, n) => s + (y[n]! - r.reduce((t, c, i) => t + c * x[i]!, 0)) ** 2, 0)
    const x = notBelowZero(a, b)!
    expect(Math.min(...x)).toBeGreaterThanOrEqual(0)
    for (let step = 0; step < 27; step++) {
      const near = Array.from(x, (v, i) => Math.max(0, v + 0.01 * ((Math.floor(step / 3 ** i) % 3) - 1)))
      expect(cost(x)).toBeLessThanOrEqual(cost(near) + 1e-9)
    }
  }
  expect(notBelowZero(new Float64Array([1, 1, 1, 1]), new Float64Array([1, 1]))).toBeNull()
})

test('readers who never differ have no spread against each other', () => {
  const exact = fitOf(setOf(Array.from({ length: 60 }, (_, s) => inTurn(s).map((m): Row => [s, m, 20 + (s % 7)])).flat(), 4))
  for (const f of exact) expect([f.spread, f.erratic]).toEqual([null, false])
})
