import fc from 'fast-check'
import { labelsOfLevels, percentsReadOff } from './read-off'

const SCALE = {
  labels: ['not yet', 'partly', 'sound', 'strong', 'rare'].map((label, i) => ({ label, percent: 20 * (i + 1), threshold: 0 })),
}
const LABELS = SCALE.labels.map((l) => l.label)

test.each([
  ['as many labels as levels are taken one by one', ['a', 'b', 'c', 'd', 'e'], [0, 1, 2, 3, 4]],
  ['the same names are taken for each other, whatever the case', ['Partly', 'sound', ' Rare'], [1, 2, 4]],
  ['names in another order are no names', ['sound', 'partly'], [0, 4]],
  ['three levels are the ends and the middle', ['a', 'b', 'c'], [0, 2, 4]],
  ['of two that are equally near the lower', ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'i'], [0, 0, 1, 1, 2, 2, 3, 3, 4]],
  ['one level is the best label', ['done'], [4]],
])('%s', (_, levels, places) => {
  expect(labelsOfLevels(levels, LABELS)).toEqual(places)
})

test('a level never reads as a lower label than the one below it, and always as one of the scale', () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom(...LABELS, 'other'), { minLength: 1, maxLength: 12 }),
      fc.integer({ min: 1, max: 5 }),
      (levels, n) => {
        const places = labelsOfLevels(levels, LABELS.slice(0, n))
        expect(places).toHaveLength(levels.length)
        expect(places.every((p, i) => p >= (places[i - 1] ?? 0) && p < n)).toBe(true)
      },
    ),
    { seed: 16 },
  )
})

test('each is worth what its label stands for; a label that the scale does not have is no percent', () => {
  expect(percentsReadOff(SCALE, [0, 2, 2, 4])).toEqual([20, 60, 60, 100])
  expect(percentsReadOff(SCALE, [0, 5])).toBeNull()
})
