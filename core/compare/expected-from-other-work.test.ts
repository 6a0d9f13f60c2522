import fc from 'fast-check'
import { expectedFromOtherWork, type WithOtherWork } from './expected-from-other-work'

const rows = (groups: Record<string, [elsewhere: number, mark: number][]>): WithOtherWork[] =>
  Object.entries(groups).flatMap(([groupId, pairs]) => pairs.map(([elsewhere, mark]) => ({ groupId, elsewhere, mark })))

/** Least squares by its normal equations over indicator columns and the covariate: the judge. */
function leastSquares(all: readonly WithOtherWork[]) {
  const ids = [...new Set(all.map((r) => r.groupId))]
  const p = ids.length + 1
  const x = all.map((r) => [...ids.map((id) => (id === r.groupId ? 1 : 0)), r.elsewhere])
  const a = Array.from({ length: p }, (_, i) => [
    ...Array.from({ length: p }, (_, j) => x.reduce((s, row) => s + row[i]! * row[j]!, 0)),
    ...Array.from({ length: p }, (_, j) => (i === j ? 1 : 0)),
  ])
  for (let i = 0; i < p; i++) {
    const best = a.slice(i).reduce((most, row, k) => (Math.abs(row[i]!) > Math.abs(a[most]![i]!) ? i + k : most), i)
    ;[a[i], a[best]] = [a[best]!, a[i]!]
    const pivot = a[i]![i]!
    a[i] = a[i]!.map((v) => v / pivot)
    for (let k = 0; k < p; k++) if (k !== i) a[k] = a[k]!.map((v, c) => v - a[k]![i]! * a[i]![c]!)
  }
  const inverse = a.map((row) => row.slice(p))
  const xy = Array.from({ length: p }, (_, i) => x.reduce((s, row, r) => s + row[i]! * all[r]!.mark, 0))
  const b = inverse.map((row) => row.reduce((s, v, i) => s + v * xy[i]!, 0))
  const rss = all.reduce((s, r, i) => s + (r.mark - x[i]!.reduce((t, v, c) => t + v * b[c]!, 0)) ** 2, 0)
  const variance = rss / (all.length - p)
  const contrast = (weights: number[]) => {
    const value = weights.reduce((s, w, h) => s + w * b[h]!, 0)
    const full = [...weights, 0]
    const se = Math.sqrt(variance * full.reduce((s, w, i) => s + w * inverse[i]!.reduce((t, v, j) => t + v * full[j]!, 0), 0))
    return { value, se }
  }
  const of = (id: string) => all.filter((r) => r.groupId === id).length
  return {
    slope: b[p - 1]!,
    leans: ids.map((_, g) => contrast(ids.map((_, h) => (h === g ? 1 : 0) - 1 / ids.length))),
    against: ids.map((id, g) => contrast(ids.map((other, h) => (h === g ? 1 : -of(other) / (all.length - of(id)))))),
  }
}

test('a section that is high elsewhere as well does not lean; one that is high here alone does', () => {
  const line = (lift: number, from: number): [number, number][] =>
    [0, 3, 6, 9].map((d, i) => [from + d, lift + (from + d) * 0.5 + (i % 3 === 0 ? 0.2 : -0.2)])
  const { groups, slope } = expectedFromOtherWork(rows({ strong: line(0, 70), usual: line(0, 50), generous: line(5, 50) }))!
  expect(slope).toBeCloseTo(0.5, 9)
  const [strong, usual, generous] = groups
  expect(strong!.mean).toBeGreaterThan(usual!.mean + 9)
  expect(Math.abs(strong!.lean - usual!.lean)).toBeLessThan(1e-9)
  expect(generous!.lean - usual!.lean).toBeCloseTo(5, 6)
  expect(generous!.interval[0]).toBeGreaterThan(0)
})

test('held against least squares by its normal equations', () => {
  const pair = fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 40 }))
  const group = fc.array(pair, { minLength: 2, maxLength: 6 })
  fc.assert(
    fc.property(fc.array(group, { minLength: 2, maxLength: 4 }), (all) => {
      const list = rows(Object.fromEntries(all.map((g, i) => [`g${i}`, g])))
      const own = expectedFromOtherWork(list)
      if (!own) return
      const judge = leastSquares(list)
      expect(own.slope).toBeCloseTo(judge.slope, 6)
      own.groups.forEach((g, i) => {
        expect(g.lean).toBeCloseTo(judge.leans[i]!.value, 6)
        expect(g.se).toBeCloseTo(judge.leans[i]!.se, 6)
        expect(g.againstOthers.difference).toBeCloseTo(judge.against[i]!.value, 6)
        const [low, high] = g.againstOthers.interval
        expect((high - low) / 2).toBeCloseTo((judge.against[i]!.se * (g.interval[1] - g.interval[0])) / 2 / (g.se || 1), 5)
      })
      expect(own.groups.reduce((s, g) => s + g.lean, 0)).toBeCloseTo(0, 6)
    }),
  )
})

test.each<[string, WithOtherWork[]]>([
  [
    'one group',
    rows({
      a: [
        [1, 2],
        [2, 3],
        [3, 5],
      ],
    }),
  ],
  [
    'no spread elsewhere',
    rows({
      a: [
        [1, 2],
        [1, 3],
      ],
      b: [
        [2, 2],
        [2, 4],
      ],
    }),
  ],
  [
    'too few to tell',
    rows({
      a: [[1, 2]],
      b: [
        [2, 2],
        [3, 3],
      ],
    }),
  ],
])('with %s nothing is said', (_, all) => expect(expectedFromOtherWork(all)).toBeNull())
