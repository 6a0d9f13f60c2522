import fc from 'fast-check'
import Fraction from 'fraction.js'
import { STATUSES } from '../grades/course'
import { runs } from '../testing/runs'
import { workingsOf } from '../trial/course-table'
import { evidenceOf, type EvidenceLink, type JudgedPoints } from './evidence'
import { levelInProportion, lowerMedian, placeOf } from './level-of'
import { outcomeStanding, type OutcomeRule } from './outcome-standing'
import { outcomeShares, standingsTable, type Outcome } from './standings-table'

const dated = (...levels: number[]) => levels.map((level, i) => ({ level, day: `2026-10-${String(i + 1).padStart(2, '0')}` }))

test.each<[OutcomeRule, number[], number | null, number | null, boolean]>([
  [{ kind: 'latest' }, [4, 3, 2], 2, 2, false],
  [{ kind: 'highest' }, [1, 4, 2], 4, 4, true],
  // By hand: 8 over 3.
  [{ kind: 'mean' }, [2, 3, 3], 8 / 3, 2, false],
  [{ kind: 'mean' }, [2, 4], 3, 3, true],
  // By hand: 2; 0.65·3 + 0.35·2 = 2.65; 0.65·4 + 0.35·2.65 = 3.5275.
  [{ kind: 'recent', alpha: 0.65 }, [2, 3, 4], 3.5275, 3, true],
  [{ kind: 'recent', alpha: 1 }, [4, 1], 1, 1, false],
  [{ kind: 'times', times: 2, of: null }, [4, 1, 1, 3], 3, 3, true],
  // Of the last three one alone comes up to it.
  [{ kind: 'times', times: 2, of: 3 }, [4, 1, 1, 3], 1, 1, false],
  [{ kind: 'times', times: 2, of: 3 }, [4], null, null, false],
  [{ kind: 'mean' }, [], null, null, false],
])('%j of %j is %p: level %p, reached %p', (rule, levels, value, level, reached) => {
  const s = outcomeStanding(dated(...levels), rule, 3)
  if (value === null) expect(s.value).toBeNull()
  else expect(s.value).toBeCloseTo(value, 12)
  expect([s.level, s.reached, s.results, s.history]).toEqual([level, reached, levels.length, levels])
})

test('results are put in the order of their days; those without one come first, those of one day as they were given', () => {
  const s = outcomeStanding(
    [
      { level: 4, day: '2026-11-02' },
      { level: 1, day: null },
      { level: 2, day: '2026-10-01' },
      { level: 3, day: '2026-11-02' },
    ],
    { kind: 'latest' },
    3,
  )
  expect(s.history).toEqual([1, 2, 4, 3])
  expect(s.level).toBe(3)
})

test('so many times of the last so many: met and counted say why', () => {
  expect(outcomeStanding(dated(3, 4, 1, 3), { kind: 'times', times: 2, of: 3 }, 3).counted).toEqual({ met: 2, of: 3 })
  expect(outcomeStanding(dated(3), { kind: 'latest' }, 3).counted).toBeNull()
})

const levels = fc.array(fc.integer({ min: 1, max: 6 }), { minLength: 1, maxLength: 12 })
test('by times it is reached just where so many come up to it', () => {
  fc.assert(
    fc.property(
      levels,
      fc.integer({ min: 1, max: 5 }),
      fc.option(fc.integer({ min: 1, max: 12 })),
      fc.integer({ min: 1, max: 6 }),
      (l, times, of, from) => {
        const s = outcomeStanding(dated(...l), { kind: 'times', times, of }, from)
        const window = of === null ? l : l.slice(-of)
        expect(s.reached).toBe(window.filter((x) => x >= from).length >= times)
        expect(s.counted).toEqual({ met: window.filter((x) => x >= from).length, of: window.length })
      },
    ),
    { numRuns: runs(300) },
  )
})

test('one more result never moves the mean or the weighted past what came, and the weighted is what exact fractions make of it', () => {
  fc.assert(
    fc.property(levels, fc.integer({ min: 1, max: 20 }), (l, twentieths) => {
      const alpha = new Fraction(twentieths, 20)
      const exact = l.slice(1).reduce((s, x) => alpha.mul(x).add(new Fraction(1).sub(alpha).mul(s)), new Fraction(l[0]!))
      const s = outcomeStanding(dated(...l), { kind: 'recent', alpha: twentieths / 20 }, 3)
      expect(s.value).toBeCloseTo(exact.valueOf(), 9)
      expect(s.reached).toBe(exact.compare(3) >= 0)
      expect(s.value).toBeGreaterThanOrEqual(Math.min(...l) - 1e-9)
      expect(s.value).toBeLessThanOrEqual(Math.max(...l) + 1e-9)
    }),
    { numRuns: runs(300) },
  )
})

test.each([
  [0, 4, 4, 1],
  [3, 4, 4, 4],
  // Of five the middle one lies half-way between the second and the third of four: the lower.
  [2, 5, 4, 2],
  [1, 3, 4, 2],
  [1, 3, 5, 3],
  [1, 2, 4, 4],
  [0, 1, 4, 4],
  [2, 6, 3, 2],
])('place %p of %p levels is level %p of them: %p', (place, of, many, level) => expect(levelInProportion(place, of, many)).toBe(level))

test('in proportion the ends meet, and a higher place is never a lower level', () => {
  fc.assert(
    fc.property(fc.integer({ min: 2, max: 12 }), fc.integer({ min: 1, max: 12 }), (of, many) => {
      const all = Array.from({ length: of }, (_, place) => levelInProportion(place, of, many))
      expect([all[0], all.at(-1)]).toEqual([1, many])
      expect(all).toEqual(all.toSorted((a, b) => a - b))
    }),
    { numRuns: runs(200) },
  )
})

test('the level of points is the highest that they come up to; nothing judged is none', () => {
  expect([placeOf([0, 4, 8], 7.9), placeOf([0, 4, 8], 4), placeOf([0, 4, 8], 0.1 + 0.2 + 7.7), placeOf([2, 4], 1)]).toEqual([1, 1, 2, 0])
  expect([placeOf([0, 4], NaN), placeOf([0, 4], undefined), placeOf([], 3)]).toEqual([null, null, null])
  expect([lowerMedian([3, 1, 4]), lowerMedian([4, 1]), lowerMedian([])]).toEqual([3, 1, null])
})

const outcome = (more: Partial<Outcome> = {}): Outcome => ({
  id: 'o',
  title: 'Closes',
  levels: ['begins', 'with help', 'alone', 'leads'],
  reached: 3,
  rule: { kind: 'latest' },
  ...more,
})

test('shares count everybody once: at a level or without evidence, of all and by section', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom('east', 'west'), fc.option(fc.integer({ min: 1, max: 4 }))), { maxLength: 20 }),
      (drawn) => {
        const students = drawn.map(([sectionId], i) => ({ id: String(i), sectionId }))
        const table = standingsTable(students, [outcome()], (id) => {
          const level = drawn[Number(id)]![1]
          return level === null ? [] : dated(level)
        })
        const [{ all, sections }] = outcomeShares(table, [outcome()]) as [ReturnType<typeof outcomeShares>[number]]
        const sum = (c: typeof all) => c.none + c.perLevel.reduce((a, b) => a + b, 0)
        expect(sum(all)).toBe(drawn.length)
        expect([...sections.values()].reduce((n, c) => n + sum(c), 0)).toBe(drawn.length)
        expect(all.reached).toBe(drawn.filter(([, l]) => l !== null && l >= 3).length)
        for (const s of ['east', 'west'])
          expect(sections.get(s)?.none ?? 0).toBe(drawn.filter(([own, l]) => own === s && l === null).length)
      },
    ),
    { numRuns: runs(200) },
  )
})

describe('evidence', () => {
  const STUDENTS = ['ada', 'bo', 'cy']
  const w = workingsOf({
    policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: null, above100: 'cap' },
    boundaries: [{ grade: 'Pass', from: 0 }],
    conditions: [],
    students: STUDENTS.map((id) => ({ id, sectionId: 'east' })),
    markers: [],
    components: [{ id: 'work', weight: 100, combine: 'byWorth', dropLowest: 0, bonus: false }],
    assessments: [
      {
        id: 'essay',
        componentId: 'work',
        outOf: 20,
        worth: 20,
        counts: true,
        bonus: false,
        droppable: true,
        readingsWanted: 1,
        tolerance: 2,
      },
    ],
    placements: [{ assessmentId: 'essay', sectionId: 'east', due: '2026-10-05' }],
    stays: {},
    leftOut: {},
    scripts: {
      id: STUDENTS.map((id) => `essay:${id}`),
      student: [0, 1, 2],
      assessment: [0, 0, 0],
      // Cy's is looked into.
      status: ['in', 'late', 'held'].map((status) => STATUSES.indexOf(status as 'in')),
      daysLate: [0, 1, 0],
      entered: [null, null, null],
    },
    readings: { script: [], marker: [], mark: [] },
    agreed: {},
    adjustments: [],
  })
  const link = (more: Partial<EvidenceLink> = {}): EvidenceLink => ({
    outcomeId: 'o',
    assessmentId: 'essay',
    criterionId: 'line',
    title: 'Line',
    from: [0, 4, 8],
    ...more,
  })
  const judged = (more: Partial<JudgedPoints> = {}): JudgedPoints => ({
    assessmentId: 'essay',
    criteria: [{ id: 'line' }],
    students: ['ada', 'bo', 'cy'],
    // Ada was read twice, Bo twice, Cy once.
    student: [0, 0, 1, 1, 2],
    mark: [10, 12, 18, 4, 6],
    points: [[8, 4, 8, NaN, 5]],
    agreed: { student: [], points: [[]] },
    ...more,
  })
  const of = (links: EvidenceLink[], read: JudgedPoints, student: string) =>
    (
      evidenceOf(w, links, [read], new Map([['o', 4]]))
        .get(student)
        ?.get('o') ?? []
    ).map((e) => [e.level, e.day, e.scriptId])

  test('of two readings the lower stands, one that judged nothing does not count, and the day is the one it was due', () => {
    expect(of([link()], judged(), 'ada')).toEqual([[2, '2026-10-05', 'essay:ada']])
    expect(of([link()], judged(), 'bo')).toEqual([[4, '2026-10-05', 'essay:bo']])
  })

  test('what was agreed on criterion by criterion stands in the place of the readings', () => {
    expect(of([link()], judged({ agreed: { student: [0], points: [[8]] } }), 'ada')).toEqual([[4, '2026-10-05', 'essay:ada']])
  })

  test('an overall judgement is read off the mark', () => {
    expect(of([link({ criterionId: null, from: [0, 5, 10, 15] })], judged(), 'bo')).toEqual([[1, '2026-10-05', 'essay:bo']])
  })

  test('a held script, one that is not there and a criterion that is gone tell nothing', () => {
    expect(of([link()], judged(), 'cy')).toEqual([])
    expect(of([link()], judged({ students: ['ada', 'bo', 'nobody'] }), 'nobody')).toEqual([])
    expect(of([link({ criterionId: 'gone' })], judged(), 'ada')).toEqual([])
    expect(of([link({ assessmentId: 'gone' })], judged(), 'ada')).toEqual([])
  })
})
