import fc from 'fast-check'
import { RubricError, rubricMark, rubricMaximum, rubricTotal, schemeMark, type Rubric, criterionMaximum } from './rubric'
import { scaleLabel, scaleValue, type Scale } from './scale'

const rubric: Rubric = {
  criteria: [
    { id: 'p', title: 'Purpose', ranges: false, penalty: false, levels: [0, 3, 6, 8].map((points) => ({ points, words: '' })) },
    {
      id: 'g',
      title: 'Generalisation',
      ranges: true,
      penalty: false,
      levels: [
        { points: 0, to: 3.5, words: '' },
        { points: 4, to: 9.5, words: '' },
        { points: 10, words: '' },
      ],
    },
    {
      id: 'late',
      title: 'Late',
      ranges: false,
      penalty: true,
      levels: [
        { points: 0, words: '' },
        { points: 4, words: '' },
      ],
    },
  ],
}

test('points add up, a penalty comes off, and the maximum counts no penalty', () => {
  expect(rubricMaximum(rubric)).toBe(18)
  expect(rubricTotal(rubric, { p: 6, g: 7.5, late: 4 })).toEqual({ total: 9.5, unjudged: [], complete: true })
  expect(rubricMark(rubric, { p: 8, g: 10, late: 0 }, 100)).toBe(100)
  expect(rubricMark(rubric, { p: 6, g: 3, late: 0 }, 100)).toBe(50)
})

test('a total with a gap is never passed off as complete', () => {
  expect(rubricTotal(rubric, { p: 6 })).toEqual({ total: 6, unjudged: ['g', 'late'], complete: false })
  expect(rubricMark(rubric, { p: 6 }, 100)).toBeNull()
})

test('the floor is 0', () => {
  expect(rubricTotal(rubric, { p: 0, g: 2, late: 4 }).total).toBe(0)
})

test('a pick that is no level’s is refused with the criterion', () => {
  expect(() => rubricTotal(rubric, { p: 4 })).toThrow(/Purpose: 4 is not one of its levels/)
  expect(() => rubricTotal(rubric, { g: 3.75 })).toThrow(RubricError)
  expect(() => rubricTotal(rubric, { x: 1 })).toThrow(/no criterion x/)
})

test('scaling keeps the order of totals', () => {
  const pick = fc.record({ p: fc.constantFrom(0, 3, 6, 8), g: fc.constantFrom(0, 3.5, 4, 9, 10), late: fc.constantFrom(0, 4) })
  fc.assert(
    fc.property(pick, pick, fc.constantFrom(20, 33, 100), (a, b, outOf) => {
      const order = Math.sign(rubricTotal(rubric, a).total - rubricTotal(rubric, b).total)
      expect(Math.sign(rubricMark(rubric, a, outOf)! - rubricMark(rubric, b, outOf)!)).toBe(order)
    }),
  )
})

test('a mark scheme scales its points, and is open while one is missing', () => {
  const scheme = {
    criteria: [
      { id: 'a', title: 'Entries', max: 15 },
      { id: 'b', title: 'Sums', max: 5 },
    ],
  }
  expect(schemeMark(scheme, { a: 12, b: 4 }, 35)).toBe(28)
  expect(schemeMark(scheme, { a: 12 }, 35)).toBeNull()
  expect(() => schemeMark(scheme, { a: 16, b: 0 }, 35)).toThrow(/Entries: 16 is outside 0 to 15/)
})

test('labels and percents, unevenly spaced, both ways', () => {
  const scale: Scale = {
    labels: [
      { label: 'unready', percent: 30, threshold: 0 },
      { label: 'Sound', percent: 62, threshold: 55 },
      { label: 'commanding', percent: 94, threshold: 86 },
    ],
  }
  expect([scaleValue(scale, ' sound '), scaleValue(scale, 'none')]).toEqual([62, null])
  expect([0, 54.9, 55, 86, 100].map((p) => scaleLabel(scale, p))).toEqual(['unready', 'unready', 'Sound', 'commanding', 'commanding'])
  expect(scaleLabel(scale, -1)).toBeNull()
})

test('a criterion gives at most its highest point or range; one without a level gives nothing', () => {
  const criterion = (levels: { points: number; to?: number; words: string }[]) => ({
    id: 'c',
    title: 'C',
    ranges: true,
    penalty: false,
    levels,
  })
  expect(criterionMaximum({ levels: [] })).toBe(0)
  expect(
    criterionMaximum(
      criterion([
        { points: 0, to: 3, words: '' },
        { points: 4, to: 9.5, words: '' },
      ]),
    ),
  ).toBe(9.5)
  expect(rubricMaximum({ criteria: [criterion([]), criterion([{ points: 4, words: '' }])] })).toBe(4)
})
