import fc from 'fast-check'
import { placementFor, placementsBySection } from './due-for'

const sections = fc.constantFrom('a', 'b', 'c')
const days = fc.integer({ min: 1, max: 28 }).map((d) => `2026-10-${String(d).padStart(2, '0')}`)
const placements = fc.array(fc.record({ sectionId: sections, due: fc.option(days) }), { maxLength: 5 })
/** One after the other, the last of them lasting, as a student's times in sections are. */
const stays = fc.tuple(fc.uniqueArray(days, { maxLength: 3 }), fc.array(sections, { minLength: 3, maxLength: 3 })).map(([ends, where]) =>
  [...ends.toSorted(), null].flatMap((to, i, all) => {
    const from = i === 0 ? '2026-09-01' : all[i - 1]!
    return i < where.length ? [{ sectionId: where[i]!, from, to }] : []
  }),
)

test('looked up by section, a student has the placement that going through all of them finds', () => {
  fc.assert(
    fc.property(placements, stays, sections, (placed, own, sectionId) => {
      expect(placementsBySection(placed)(own, sectionId)).toBe(placementFor(placed, own, sectionId))
    }),
    { seed: 16, numRuns: 500 },
  )
})

test.each([
  [
    'the section they were in on the day',
    [
      { sectionId: 'a', from: '2026-09-01', to: '2026-10-10' },
      { sectionId: 'b', from: '2026-10-11', to: null },
    ],
    'a',
  ],
  [
    'the section they are in, where it was due nowhere else',
    [
      { sectionId: 'c', from: '2026-09-01', to: '2026-10-10' },
      { sectionId: 'b', from: '2026-10-11', to: null },
    ],
    'b',
  ],
  ['their one section', [{ sectionId: 'b', from: '2026-09-01', to: null }], 'b'],
])('%s decides', (_, own, sectionId) => {
  const placed = [
    { sectionId: 'a', due: '2026-10-05' },
    { sectionId: 'b', due: '2026-10-05' },
  ]
  expect(placementsBySection(placed)(own, 'b')?.sectionId).toBe(sectionId)
})
