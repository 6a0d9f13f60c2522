import fc from 'fast-check'
import { seeded } from '../share/seeded'
import { runs } from '../testing/runs'
import type { ReadingSet } from './reading-set'
import { sumsOf } from './reading-sums'
import { fitted, inTurns, searched } from './restricted-likelihood'

/** Readings of 300 scripts by 50 markers, whose scripts vary by so many marks beside 5 that a reading is off by. */
function readings(seed: number, scriptsVary: number): ReadingSet {
  const random = seeded(seed)
  const near = () => random.below(1001) / 500 - 1
  const script = Array.from({ length: 800 }, (_, r) => (r < 300 ? r : random.below(300)))
  const marker = script.map(() => random.below(50))
  const worth = Array.from({ length: 300 }, () => scriptsVary * near())
  const leans = Array.from({ length: 50 }, () => 3 * near())
  const mark = script.map((s, r) => 50 + worth[s]! + leans[marker[r]!]! + 5 * near())
  return { script, marker, mark, scripts: 300, markers: 50 }
}

test('solved in turns, many markers come to what looking everywhere finds, whether scripts vary much, hardly or not at all', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1e6 }), fc.constantFrom(0, 1, 5, 20, 200), (seed, scriptsVary) => {
      const sums = sumsOf(readings(seed, scriptsVary))
      const [quick, sure] = [inTurns(sums)!, searched(sums)!]
      // Where nothing is likeliest both only come near it, and it is looked at on its own.
      if (sure.ratio! < 0.01) return expect(quick.ratio).toBeLessThan(0.02)
      expect(quick.deviance).toBeLessThan(sure.deviance + 1e-6)
      expect(Math.abs(quick.ratio! - sure.ratio!)).toBeLessThan(1e-4 * (1 + sure.ratio!))
      quick.b.forEach((mean, m) => expect(Math.abs(mean - sure.b[m]!)).toBeLessThan(1e-3))
    }),
    { numRuns: runs(20) },
  )
})

test('where every marker reads every script the variances are those of the analysis of variance, also where nearly all lies between scripts', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1e6 }), fc.constantFrom(0.05, 0.5, 5), fc.integer({ min: 2, max: 60 }), (seed, off, markers) => {
      const random = seeded(seed)
      const near = () => random.below(100_001) / 50_000 - 1
      const scripts = 12
      const rows = Array.from({ length: scripts }, () => {
        const worth = 60 + 25 * near()
        return Array.from({ length: markers }, (_, m) => worth + m / 10 + off * near())
      })
      const mean = (xs: readonly number[]) => xs.reduce((s, x) => s + x, 0) / xs.length
      const byMarker = rows[0]!.map((_, m) => mean(rows.map((row) => row[m]!)))
      const all = mean(byMarker)
      const between = (markers * rows.reduce((s, row) => s + (mean(row) - all) ** 2, 0)) / (scripts - 1)
      const rest =
        rows.reduce((s, row) => s + row.reduce((t, x, m) => t + (x - mean(row) - byMarker[m]! + all) ** 2, 0), 0) /
        ((scripts - 1) * (markers - 1))
      fc.pre(between > 2 * rest)
      const flat = rows.flatMap((row, script) => row.map((mark, marker) => ({ script, marker, mark })))
      const set = { script: flat.map((r) => r.script), marker: flat.map((r) => r.marker), mark: flat.map((r) => r.mark), scripts, markers }
      const { ratio, variance } = fitted(sumsOf(set))!
      expect(variance / rest).toBeCloseTo(1, 6)
      expect((ratio! * variance) / ((between - rest) / markers)).toBeCloseTo(1, 8)
    }),
    { numRuns: runs(60) },
  )
})
