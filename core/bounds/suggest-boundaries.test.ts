import fc from 'fast-check'
import type { CourseResult } from '../grades/course'
import { gradeCounts } from '../grades'
import { draftTable } from './draft-table'
import { regrade } from './boundaries'
import { suggestBoundaries } from './suggest-boundaries'
import { logistic } from './ways/logistic'
import { roundest } from './ways/roundest'

const BOUNDARIES = [
  { grade: 'Merit', from: 70 },
  { grade: 'Pass', from: 40 },
  { grade: 'Refer', from: 0 },
]
const result = (percents: readonly number[]): CourseResult => ({
  boundaries: BOUNDARIES,
  rounding: { decimals: 1 },
  conditions: [],
  students: percents.map((p, i) => ({
    studentId: `p${i}`,
    soFar: p,
    lowest: p,
    highest: p,
    final: p,
    adjusted: p,
    rounded: p,
    grade: null,
    heldBy: [],
    unmet: [],
    pending: 0,
  })),
})
const NO_BANDS = { seed: 1, draws: 0 }

test.each([
  [67.2, 68.6, 68],
  [67.2, 67.9, 67.5],
  [67.2, 67.26, 67.23],
  [67.2, 67.3, 67.3],
  [64, 70, 67],
  [67.2, 67.2, null],
])('of all limits above %p and up to %p the roundest is %p', (low, high, round) => {
  expect(roundest(low, high)).toBe(round)
})

// 20 students by hours of study, and who passed; its coefficients are printed in many places (−4.0777 and 1.5046).
const HOURS = [0.5, 0.75, 1, 1.25, 1.5, 1.75, 1.75, 2, 2.25, 2.5, 2.75, 3, 3.25, 3.5, 4, 4.25, 4.5, 4.75, 5, 5.5]
const PASSED = [0, 0, 0, 0, 0, 0, 1, 0, 1, 0, 1, 0, 1, 0, 1, 1, 1, 1, 1, 1]

test('the logistic curve is the published one', () => {
  const { intercept, slope } = logistic(HOURS, PASSED)!
  expect(intercept).toBeCloseTo(-4.0777, 4)
  expect(slope).toBeCloseTo(1.5046, 4)
})

test('contrasting groups: where the curve crosses one half, and why there is none', () => {
  const judged = (answers: readonly number[]) => ({
    way: 'contrastingGroups' as const,
    grade: 'Pass',
    judgements: answers.map((a, i) => ({ studentId: `p${i}`, able: a === 1 })),
  })
  const [line] = suggestBoundaries(result(HOURS.map((h) => h * 10)), judged(PASSED), { seed: 3, draws: 200 })
  expect(line!.from).toBeCloseTo(27.1, 1)
  expect(line).toMatchObject({ grade: 'Pass', n: 20, why: null })
  expect(line!.band![0]).toBeLessThan(line!.from!)
  expect(line!.band![1]).toBeGreaterThan(line!.from!)
  const [parted] = suggestBoundaries(result([30, 40, 50, 60]), judged([0, 0, 1, 1]), NO_BANDS)
  expect(parted).toMatchObject({ from: 45, same: [40, 50] })
  expect(suggestBoundaries(result([30, 40]), judged([1, 1]), NO_BANDS)[0]).toMatchObject({ from: null, why: 'All were judged the same.' })
  expect(suggestBoundaries(result([30, 40, 50, 60]), judged([1, 1, 0, 0]), NO_BANDS)[0]!.why).toMatch(/do not stand higher/)
  // Nine of ten could, wherever they stand: there is no line among them.
  const most = [0, 1, 1, 1, 1, 1, 0, 1, 1, 1, 1, 1, 1, 1]
  const all = suggestBoundaries(result(most.map((_, i) => 50 + i)), judged(most), NO_BANDS)[0]!
  expect(all).toMatchObject({
    from: null,
    why: 'Between 50 and 63, where students were judged, there is no percent at which as many could as could not.',
  })
})

test('borderline regression: what the line gives at the borderline judgement', () => {
  // By hand: means 2 and 50, Σ(x−2)(y−50) = 20·1 + 0 + 20·1 = 40 over 2, so y = 10 + 20·x.
  const judgements = [1, 2, 3].map((judgement, i) => ({ studentId: `p${i}`, judgement }))
  const asked = { way: 'borderlineRegression' as const, grade: 'Pass', judgements, borderline: 1.5 }
  expect(suggestBoundaries(result([30, 50, 70]), asked, NO_BANDS)).toEqual([
    { grade: 'Pass', from: 40, why: null, same: null, band: null, n: 3, curve: { intercept: 10, slope: 20 } },
  ])
  expect(suggestBoundaries(result([70, 50, 30]), asked, NO_BANDS)[0]!.why).toMatch(/do not stand higher/)
  expect(suggestBoundaries(result([70, 50]), asked, NO_BANDS)[0]!.why).toMatch(/Fewer than three/)
})

test('the widest gap near each line, of two as wide the nearer, and none where nobody is', () => {
  const lines = suggestBoundaries(result([66, 67, 68.2, 69.8, 71, 39, 40, 42, 44]), { way: 'gaps', zone: 5 }, NO_BANDS)
  expect(lines.map((l) => [l.grade, l.from, l.same])).toEqual([
    ['Merit', 69, [68.2, 69.8]],
    ['Pass', 41, [40, 42]],
  ])
  expect(suggestBoundaries(result([55]), { way: 'gaps', zone: 5 }, NO_BANDS).map((l) => l.from)).toEqual([null, null])
})

test('shares: the parts are as near to those wanted as any lines could bring them, and limits fall', () => {
  const percents = fc.array(
    fc.integer({ min: 0, max: 200 }).map((p) => p / 2),
    { minLength: 1, maxLength: 25 },
  )
  fc.assert(
    fc.property(percents, fc.integer({ min: 0, max: 10 }), fc.integer({ min: 0, max: 10 }), (list, a, b) => {
      const [top, middle] = [a / 20, b / 20]
      const shares = [
        { grade: 'Merit', share: top },
        { grade: 'Pass', share: middle },
        { grade: 'Refer', share: 1 - top - middle },
      ]
      const r = result(list)
      const [merit, pass] = suggestBoundaries(r, { way: 'shares', shares }, NO_BANDS)
      if (merit!.from === null || pass!.from === null) return
      expect(merit!.from).toBeGreaterThan(pass!.from)
      const off = (limit: number, wanted: number) => Math.abs(list.filter((p) => p >= limit).length - wanted * list.length)
      for (const [line, wanted] of [
        [merit!, top],
        [pass!, top + middle],
      ] as const) {
        const best = Math.min(...[...list, 101].map((limit) => off(limit, wanted)))
        expect(off(line.from!, wanted)).toBeCloseTo(best, 9)
      }
    }),
  )
})

test('bands are wider for a small group than for a large one, and the same for the same seed', () => {
  const spread = Array.from({ length: 200 }, (_, i) => 30 + i * 0.25)
  const band = (list: number[]) => {
    const shares = BOUNDARIES.map(({ grade }, i) => ({ grade, share: [0.3, 0.4, 0.3][i]! }))
    const [line] = suggestBoundaries(result(list), { way: 'shares', shares }, { seed: 5, draws: 300 })
    return line!.band!
  }
  const [few, many] = [band(spread.filter((_, i) => i % 10 === 0)), band(spread)]
  expect(few[1] - few[0]).toBeGreaterThan(many[1] - many[0])
  expect(band(spread)).toEqual(many)
})

test('drafts side by side: counts and shares of each, and who moves between any two', () => {
  const r = result([80, 66, 50, 30])
  const drafts = [
    { name: 'as it is', boundaries: BOUNDARIES },
    { name: 'kinder', boundaries: BOUNDARIES.map((b) => (b.grade === 'Merit' ? { ...b, from: 65 } : b)) },
    { name: 'other', boundaries: BOUNDARIES.map((b) => (b.grade === 'Pass' ? { ...b, from: 55 } : b)) },
  ]
  const table = draftTable(r, drafts)
  expect(table.drafts.map((d) => d.counts.map((c) => c.count))).toEqual([
    [1, 2, 1],
    [2, 1, 1],
    [1, 1, 2],
  ])
  expect(table.pairs.map(({ from, to, up, down }) => [from, to, up, down])).toEqual([
    ['as it is', 'kinder', 1, 0],
    ['as it is', 'other', 0, 1],
    ['kinder', 'other', 0, 2],
  ])
  expect(gradeCounts(regrade(r, drafts[1]!.boundaries))).toEqual(table.drafts[1]!.counts)
})
