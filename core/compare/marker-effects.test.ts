import fc from 'fast-check'
import { FOUR_JUDGES } from '../testing/published'
import { markerEffects } from './marker-effects'
import type { ReadingSet } from './reading-set'

type Row = [script: number, marker: number, mark: number, criterion?: number]
const setOf = (rows: readonly Row[]): ReadingSet => ({
  script: rows.map((r) => r[0]),
  marker: rows.map((r) => r[1]),
  mark: rows.map((r) => r[2]),
  scripts: Math.max(...rows.map((r) => r[0])) + 1,
  markers: Math.max(...rows.map((r) => r[1])) + 1,
  ...(rows[0]?.[3] === undefined ? {} : { criterion: rows.map((r) => r[3]!), criteria: Math.max(...rows.map((r) => r[3]!)) + 1 }),
})
const whole = (table: readonly (readonly number[])[]): Row[] => table.flatMap((row, s) => row.map((mark, m): Row => [s, m, mark]))

/** Six batches, five samples each: Davies & Goldsmith 1972, table 6.1. */
const BATCHES = [
  [1545, 1440, 1440, 1520, 1580],
  [1540, 1555, 1490, 1560, 1495],
  [1595, 1550, 1605, 1510, 1560],
  [1445, 1440, 1595, 1465, 1545],
  [1595, 1630, 1515, 1635, 1625],
  [1520, 1455, 1450, 1480, 1445],
]

test('one way, as published: restricted maximum likelihood gives 1764.05 between batches and 2451.25 within', () => {
  const fit = markerEffects(setOf(BATCHES.flatMap((batch, s) => batch.map((mark): Row => [s, 0, mark]))))!
  expect(fit.mu).toBeCloseTo(1527.5, 6)
  expect(fit.sdScript! ** 2).toBeCloseTo(1764.05, 1)
  expect(fit.sdError! ** 2).toBeCloseTo(2451.25, 1)
  expect(fit.markers[0]).toEqual({ n: 30, effect: null, se: null, interval: null, group: 0 })
})

test('where everybody read everything it is the analysis of variance: mean squares 11.24 and 1.02, as published', () => {
  const fit = markerEffects(setOf(whole(FOUR_JUDGES)))!
  expect(fit.sdError! ** 2).toBeCloseTo(1.0194, 3)
  expect(fit.sdScript! ** 2).toBeCloseTo((11.2417 - 1.0194) / 4, 3)
  const means = [0, 1, 2, 3].map((m) => FOUR_JUDGES.reduce((s, row) => s + row[m]!, 0) / 6)
  const grand = means.reduce((s, x) => s + x, 0) / 4
  fit.markers.forEach((m, i) => {
    expect(m.effect).toBeCloseTo(means[i]! - grand, 9)
    expect(m.se).toBeCloseTo(Math.sqrt(((1.0194 / 6) * 3) / 4), 3)
  })
  expect(fit.mu).toBeCloseTo(grand, 9)
})

/** −2 log of the restricted likelihood by whole matrices, and the markers' means at its least: the judge. */
function judge(rows: readonly Row[], markers: number) {
  const n = rows.length
  const at = (ratio: number) => {
    const v = rows.map((a) => rows.map((b) => (a === b ? 1 : 0) + (a[0] === b[0] ? ratio : 0)))
    const x = rows.map((r) => Array.from({ length: markers }, (_, m) => (r[1] === m ? 1 : 0)))
    const { inverse: vi, logDet: logV } = inverted(v)
    const xtvi = times(transposed(x), vi)
    const { inverse: a, logDet: logA } = inverted(times(xtvi, x))
    const y = rows.map((r) => [r[2]])
    const b = times(a, times(xtvi, y))
    const e = y.map((row, i) => [row[0]! - times([x[i]!], b)[0]![0]!])
    const rss = times(transposed(e), times(vi, e))[0]![0]!
    return { deviance: (n - markers) * Math.log(rss / (n - markers)) + logV + logA, b: b.map((r) => r[0]!), variance: rss / (n - markers) }
  }
  let [best, width] = [0, 0.5]
  let share = 0.5
  for (best = at(1).deviance; width > 1e-10; width /= 1.5)
    for (const s of [share - width, share + width]) {
      if (s < 0 || s > 1 - 1e-7) continue
      const { deviance } = at(s / (1 - s))
      if (deviance < best) [best, share] = [deviance, s]
    }
  const none = at(0)
  if (none.deviance <= best) return { ratio: 0, ...none }
  return { ratio: share / (1 - share), ...at(share / (1 - share)) }
}
const transposed = (a: number[][]) => a[0]!.map((_, j) => a.map((row) => row[j]!))
const times = (a: number[][], b: number[][]) => a.map((row) => b[0]!.map((_, j) => row.reduce((s, v, k) => s + v * b[k]![j]!, 0)))
function inverted(of: number[][]): { inverse: number[][]; logDet: number } {
  const n = of.length
  const a = of.map((row, i) => [...row, ...row.map((_, j) => (i === j ? 1 : 0))])
  let logDet = 0
  for (let i = 0; i < n; i++) {
    const best = a.slice(i).reduce((most, row, k) => (Math.abs(row[i]!) > Math.abs(a[most]![i]!) ? i + k : most), i)
    ;[a[i], a[best]] = [a[best]!, a[i]!]
    const pivot = a[i]![i]!
    logDet += Math.log(Math.abs(pivot))
    a[i] = a[i]!.map((v) => v / pivot)
    for (let k = 0; k < n; k++) if (k !== i) a[k] = a[k]!.map((v, c) => v - a[k]![i]! * a[i]![c]!)
  }
  return { inverse: a.map((row) => row.slice(n)), logDet }
}

/** Scripts read by some of four markers, all of whom read something. */
const someRead = fc
  .array(fc.tuple(fc.subarray([0, 1, 2, 3], { minLength: 1 }), fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 4, maxLength: 4 })), {
    minLength: 4,
    maxLength: 7,
  })
  .map((scripts) => scripts.flatMap(([who, marks], s) => who.map((m): Row => [s, m, marks[m]!])))
  .filter((rows) => new Set(rows.map((r) => r[1])).size === 4 && rows.length > 6)

test('held against the restricted likelihood by whole matrices', () => {
  fc.assert(
    fc.property(someRead, (rows) => {
      const fit = markerEffects(setOf(rows))!
      if (fit.sdError === null || fit.sdError < 1e-6) return
      const by = judge(rows, 4)
      expect(fit.sdError ** 2).toBeCloseTo(by.variance, 2)
      expect((fit.sdScript! / fit.sdError) ** 2 / (1 + (fit.sdScript! / fit.sdError) ** 2)).toBeCloseTo(by.ratio / (1 + by.ratio), 3)
      expect(fit.mu).toBeCloseTo(by.b.reduce((s, x) => s + x, 0) / 4, 2)
    }),
    { numRuns: 25 },
  )
})

test('a marker who gives more to everybody leans by as much more, the others a little less; how spread anything is stays', () => {
  fc.assert(
    fc.property(someRead, fc.integer({ min: -9, max: 9 }), (rows, c) => {
      const before = markerEffects(setOf(rows))!
      if (before.groups.length > 1 || before.sdError === null || before.sdError < 0.1) return
      const after = markerEffects(setOf(rows.map(([s, m, mark]): Row => [s, m, m === 2 ? mark + c : mark])))!
      after.markers.forEach((m, i) => expect(m.effect! - before.markers[i]!.effect!).toBeCloseTo(i === 2 ? c * (3 / 4) : -c / 4, 4))
      expect(after.sdError).toBeCloseTo(before.sdError, 4)
      expect(after.sdScript).toBeCloseTo(before.sdScript!, 4)
    }),
    { numRuns: 60 },
  )
})

test('it does not matter what scripts and markers are called, or in which order readings come', () => {
  fc.assert(
    fc.property(someRead, (rows) => {
      const named = markerEffects(setOf(rows))!
      const other = markerEffects(setOf([...rows].reverse().map(([s, m, mark]): Row => [9 - s, 3 - m, mark])))!
      if (named.sdError === null || named.sdError < 0.1) return
      named.markers.forEach((m, i) => {
        if (m.effect === null) expect(other.markers[3 - i]!.effect).toBeNull()
        else expect(other.markers[3 - i]!.effect).toBeCloseTo(m.effect, 4)
      })
    }),
    { numRuns: 60 },
  )
})

test('markers who share no script stand in groups of their own and are compared inside them alone', () => {
  const rows: Row[] = [
    [0, 0, 10], [0, 1, 14], [1, 0, 20], [1, 1, 23], [2, 0, 15], [2, 1, 19],
    [3, 2, 30], [3, 3, 31], [4, 2, 22], [4, 3, 22], [5, 4, 12],
  ] // prettier-ignore
  const fit = markerEffects(setOf(rows))!
  expect(fit.groups.map((g) => [...g].sort())).toEqual([[0, 1], [2, 3], [4]])
  const [a, b, c, d, alone] = fit.markers
  expect(a!.effect! + b!.effect!).toBeCloseTo(0, 9)
  expect(b!.effect! - a!.effect!).toBeCloseTo(11 / 3, 9)
  expect(d!.effect! - c!.effect!).toBeCloseTo(0.5, 9)
  expect(alone).toMatchObject({ n: 1, effect: null, group: 2 })
})

test('with criteria, which of them is easy is told apart from who is generous', () => {
  const easy = [0, 3, -1]
  const leans = [1.5, -0.5, -1]
  const rows = Array.from({ length: 12 }, (_, s) => s).flatMap((s) =>
    [0, 1, 2]
      .filter((m) => (s + m) % 3 > 0)
      .flatMap((m) => easy.map((e, k): Row => [s, m, 10 + (s % 4) + leans[m]! + e + ((s * 7 + m * 3 + k * 5) % 3) * 0.01, k])),
  )
  const fit = markerEffects(setOf(rows))!
  fit.markers.forEach((m, i) => expect(m.effect).toBeCloseTo(leans[i]!, 1))
  const middle = easy.reduce((s, x) => s + x, 0) / 3
  fit.criteria.forEach((c, k) => expect(c).toBeCloseTo(easy[k]! - middle, 1))
  expect(fit.criteria.reduce((s, x) => s + x, 0)).toBeCloseTo(0, 9)
})

test('nothing read twice says nothing of anybody', () => {
  const fit = markerEffects(setOf([[0, 0, 3], [1, 1, 5], [2, 0, 4]]))! // prettier-ignore
  expect([fit.sdScript, fit.sdError, fit.markers.map((m) => m.effect)]).toEqual([null, null, [null, null]])
  expect(markerEffects({ script: [], marker: [], mark: [], scripts: 0, markers: 0 })).toBeNull()
})
