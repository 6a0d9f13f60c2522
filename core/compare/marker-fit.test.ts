import { markerEffects } from './marker-effects'
import type { ReadingSet } from './reading-set'
import { markerFit } from './marker-fit'

/** Forty scripts, each read by two of four markers who give them much the same, but for one. */
function read(off: (marker: number, script: number) => number): ReadingSet {
  const rows = Array.from({ length: 40 }, (_, s) =>
    [s % 4, (s + 1 + (s % 3)) % 4].map((m) => ({ s, m, mark: 20 + (s % 7) + off(m, s) })),
  ).flat()
  return { script: rows.map((r) => r.s), marker: rows.map((r) => r.m), mark: rows.map((r) => r.mark), scripts: 40, markers: 4 }
}
const ratios = (set: ReadingSet) => markerFit(set, markerEffects(set)!).map((f) => f.ratio)

test('who gives now much more and now much less is erratic; who always gives more is not', () => {
  const small = (m: number, s: number) => (((s * 5 + m * 3) % 7) - 3) * 0.2
  const erratic = ratios(read((m, s) => small(m, s) + (m === 2 ? (s % 2 ? 6 : -6) : 0)))
  expect(erratic[2]).toBeGreaterThan(1.8)
  expect(Math.max(erratic[0]!, erratic[1]!, erratic[3]!)).toBeLessThan(1.5)
  const generous = ratios(read((m, s) => small(m, s) + (m === 2 ? 6 : 0)))
  for (const ratio of generous) expect(ratio).toBeLessThan(1.8)
})

test('where nothing is left over, or somebody read once, there is nothing to tell', () => {
  const exact = read(() => 0)
  expect(markerFit(exact, markerEffects(exact)!).every((f) => f.ratio === null || f.ratio < 10)).toBe(true)
  const once: ReadingSet = { script: [0, 0, 1, 1, 2], marker: [0, 1, 0, 1, 2], mark: [3, 5, 8, 9, 4], scripts: 3, markers: 3 }
  expect(markerFit(once, markerEffects(once)!)[2]).toEqual({ n: 1, sd: null, ratio: null })
})
