import fc from 'fast-check'
import { uncommonSections } from './common-weights'
import type { Course } from './course'
import { spreadRemainder } from './spread-remainder'

const course = (placements: [string, string][]): Course => ({
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: null, above100: 'cap' },
  components: [
    { id: 'p', weight: 40, combine: 'byWorth', dropLowest: 0, bonus: false },
    { id: 'w', weight: 60, combine: 'byWorth', dropLowest: 0, bonus: false },
  ],
  assessments: ['p1', 'p2', 'w1'].map((id) => ({
    id,
    componentId: id[0]!,
    outOf: 10,
    worth: 10,
    counts: true,
    bonus: false,
    droppable: true,
  })),
  placements: placements.map(([assessmentId, sectionId]) => ({ assessmentId, sectionId })),
  students: [],
  marks: [],
  boundaries: [],
})
const all = (section: string): [string, string][] => ['p1', 'p2', 'w1'].map((a) => [a, section])

test('sections that carry the same are not named', () => expect(uncommonSections(course([...all('a'), ...all('b')]))).toEqual([]))

test('a section that lacks an assessment is named with what carries more because of it', () => {
  const found = uncommonSections(course([...all('a'), ...all('b'), ['p1', 'c'], ['w1', 'c']]))
  expect(found).toEqual([{ sectionId: 'c', lacks: ['p2'], alone: [], differs: [{ assessmentId: 'p1', share: 0.4, elsewhere: 0.2 }] }])
})

test('weights spread to the total exactly, in proportion or into the empty ones', () => {
  expect(spreadRemainder([20, 25, 45])).toEqual([22.222, 27.778, 50])
  expect(spreadRemainder([20, null, 25, null])).toEqual([20, 27.5, 25, 27.5])
  expect(spreadRemainder([60, null, 50])).toEqual([60, null, 50])
  expect(spreadRemainder([0, 0])).toEqual([0, 0])
  fc.assert(
    fc.property(fc.array(fc.option(fc.integer({ min: 0, max: 60 })), { minLength: 1, maxLength: 9 }), (weights) => {
      const spread = spreadRemainder(weights)
      const thousandths = spread.reduce<number>((s, w) => s + Math.round((w ?? 0) * 1000), 0)
      if (spread.some((w, i) => w !== weights[i])) expect(thousandths).toBe(100_000)
      expect(spread.every((w) => w === null || w >= 0)).toBe(true)
    }),
  )
})
