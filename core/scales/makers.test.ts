import fc from 'fast-check'
import { checkScale, halfwayThresholds } from './check-scale'
import { mendRubric, resizeRubric } from './mend-rubric'
import { resizeCriterion } from './resize-criterion'
import { rubricMaximum, rubricMark, type Criterion, type Rubric } from './rubric'
import { rubricFindings } from './rubric-findings'
import { scaleLabel, scaleValue, type Scale } from './scale'

const criterion = (id: string, points: number[], more: Partial<Criterion> = {}): Criterion => ({
  id,
  title: id,
  ranges: false,
  penalty: false,
  levels: points.map((p, i) => ({ points: p, words: `level ${i}` })),
  ...more,
})
const anyCriterion = fc.uniqueArray(fc.integer({ min: 1, max: 80 }), { minLength: 1, maxLength: 5 }).map((points) =>
  criterion(
    'c',
    [0, ...points.sort((a, b) => a - b)].map((p) => p / 2),
  ),
)
const step = fc.constantFrom(null, 0.25, 0.5, 1)

test('resizing keeps order and zero, reaches exactly the top, and keeps to the step', () =>
  fc.assert(
    fc.property(anyCriterion, fc.integer({ min: 1, max: 60 }), step, (c, newMax, s) => {
      const { levels } = resizeCriterion(c, newMax, s)
      const points = levels.map((l) => l.points)
      expect(points.at(-1)).toBe(newMax)
      expect(points[0]).toBe(0)
      expect(points).toEqual([...points].sort((a, b) => a - b))
      if (s !== null) for (const p of points.slice(0, -1)) expect((p / s) % 1).toBeCloseTo(0, 9)
      const top = c.levels.at(-1)!.points
      points.forEach((p, i) => expect(Math.abs(p - (c.levels[i]!.points * newMax) / top)).toBeLessThanOrEqual((s ?? 0.001) / 2 + 1e-9))
    }),
  ))

test('ranges scale alike; half a step goes up; what cannot be resized says so', () => {
  const c = criterion('g', [0, 4, 10], {
    ranges: true,
    levels: [
      { points: 0, to: 3.5, words: '' },
      { points: 4, to: 9.5, words: '' },
      { points: 10, words: '' },
    ],
  })
  expect(resizeCriterion(c, 20, 0.5).levels.map((l) => [l.points, l.to])).toEqual([
    [0, 7],
    [8, 19],
    [20, undefined],
  ])
  // Halved to whole points, 3.5 would become the 2 that the next level begins at.
  expect(resizeCriterion(c, 5, 1).levels.map((l) => [l.points, l.to])).toEqual([
    [0, 1],
    [2, 4],
    [5, undefined],
  ])
  expect(resizeCriterion(criterion('h', [0, 1, 4]), 10, 1).levels.map((l) => l.points)).toEqual([0, 3, 10])
  expect(() => resizeCriterion(c, 0, null)).toThrow('above 0')
  expect(() => resizeCriterion(criterion('z', [0]), 5, null)).toThrow('no points to keep in proportion')
})

test('a whole rubric comes to exactly another maximum, and findings of decimals are gone', () =>
  fc.assert(
    fc.property(fc.array(anyCriterion, { minLength: 1, maxLength: 6 }), fc.integer({ min: 10, max: 100 }), (list, maximum) => {
      const rubric = { criteria: list.map((c, i) => ({ ...c, id: `c${i}` })) }
      const resized = resizeRubric(rubric, maximum, 0.5)
      expect(rubricMaximum(resized)).toBe(maximum)
      expect(rubricFindings(resized, maximum).filter((f) => f.kind === 'awkward decimals')).toEqual([])
    }),
  ))

test('each finding is named, and the fix on offer ends it', () => {
  const rubric: Rubric = {
    criteria: [
      criterion('no zero', [2, 4]),
      criterion('order', [0, 5, 3]),
      criterion('equal', [0, 3, 3]),
      criterion('many', [0, 1, 2, 3, 4, 5, 6]),
      criterion('words', [0, 2], {
        levels: [
          { points: 0, words: 'none' },
          { points: 2, words: 'None' },
        ],
      }),
      criterion('silent', [0, 2], {
        levels: [
          { points: 0, words: '' },
          { points: 2, words: 'x' },
        ],
      }),
      criterion('range', [0, 4], {
        ranges: true,
        levels: [
          { points: 0, to: 4, words: 'a' },
          { points: 4, words: 'b' },
        ],
      }),
      criterion('heavy', [0, 60]),
    ],
  }
  const found = rubricFindings(rubric)
  expect(found.map((f) => [f.criterionId, f.kind])).toEqual([
    ['no zero', 'no zero level'],
    ['order', 'out of order'],
    ['equal', 'equal points'],
    ['many', 'many levels'],
    ['words', 'same words'],
    ['silent', 'no words'],
    ['range', 'range'],
    ['heavy', 'over half'],
  ])
  for (const f of found.filter((x) => x.fix)) {
    const after = rubricFindings(mendRubric(rubric, f.fix!))
    expect(after.some((x) => x.kind === f.kind && x.criterionId === f.criterionId)).toBe(false)
  }
  expect(rubricFindings({ criteria: [] })[0]!.kind).toBe('no criteria')
  expect(rubricFindings({ criteria: [criterion('good', [0, 3, 6])] })).toEqual([])
})

test('awkward decimals are named with one, and resizing ends them', () => {
  const rubric = { criteria: [criterion('a', [0, 1, 2, 3]), criterion('b', [0, 2, 4])] }
  const [finding] = rubricFindings(rubric, 20)
  expect(finding).toMatchObject({
    kind: 'awkward decimals',
    message: '7 points scaled to 20 make marks with long decimals, such as 2.857.',
  })
  const mended = mendRubric(rubric, finding!.fix!)
  expect(rubricFindings(mended, 20)).toEqual([])
  expect(rubricMark(mended, { a: mended.criteria[0]!.levels.at(-1)!.points, b: mended.criteria[1]!.levels.at(-1)!.points }, 20)).toBe(20)
  expect(rubricFindings({ criteria: [criterion('a', [0, 2, 4])] }, 100)).toEqual([])
})

describe('scales', () => {
  const scale = (...rows: [string, number, number][]): Scale => ({
    labels: rows.map(([label, percent, threshold]) => ({ label, percent, threshold })),
  })
  const kinds = (s: Scale) => checkScale(s).map((f) => f.kind)
  test('a good one has no finding, evenly spaced or not', () =>
    expect(kinds(scale(['poor', 30, 0], ['sound', 62, 55], ['fine', 94, 86]))).toEqual([]))
  test.each([
    ['empty', scale(['only', 50, 0])],
    ['fractions', scale(['poor', 0.3, 0], ['fine', 0.9, 0.6])],
    ['double label', scale(['poor', 30, 0], ['Poor', 90, 60])],
    ['no label', scale(['', 30, 0], ['fine', 90, 60])],
    ['not a percent', scale(['poor', 30, 0], ['fine', 120, 60])],
    ['gap', scale(['poor', 30, 20], ['fine', 90, 60])],
    ['threshold', scale(['poor', 30, 0], ['fine', 90, 95])],
  ])('%s', (kind, s) => {
    expect(kinds(s)).toContain(kind)
    for (const f of checkScale(s).filter((x) => x.kind === kind && x.mended)) expect(kinds(f.mended!)).not.toContain(kind)
  })
  test('labels out of order are put in order', () => {
    const s = scale(['fine', 90, 60], ['poor', 30, 0])
    const f = checkScale(s).find((x) => x.kind === 'out of order')!
    expect(kinds(f.mended!)).toEqual([])
  })
  test('with thresholds halfway every label’s percent is read back as it', () =>
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 100 }), { minLength: 2, maxLength: 12 }), (percents) => {
        const s = halfwayThresholds({ labels: percents.map((p) => ({ label: `at ${p}`, percent: p, threshold: 0 })) })
        // Percents of 0 and 1 alone may be meant and may be fractions: that is asked, and nothing else is.
        expect(checkScale(s).filter((f) => f.kind !== 'fractions')).toEqual([])
        for (const l of s.labels) expect(scaleLabel(s, scaleValue(s, l.label)!)).toBe(l.label)
      }),
      { examples: [[[0, 1]]] },
    ))
})
