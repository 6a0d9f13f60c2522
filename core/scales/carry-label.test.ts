import fc from 'fast-check'
import { carryLabel } from './carry-label'
import type { Scale } from './scale'

const of = (...labels: [string, number][]): Scale => ({
  labels: labels.map(([label, percent]) => ({ label, percent, threshold: percent })),
})
const before = of(['weak', 30], ['sound', 60], ['strong', 85])

test('the same name is the same judgement, whatever it stands for and wherever it is now', () => {
  const after = of(['weak', 35], ['fair', 50], ['Sound', 65], ['strong', 90])
  expect(before.labels.map((l) => carryLabel(before, after, l.label))).toEqual([
    { label: 'weak', nearest: false },
    { label: 'Sound', nearest: false },
    { label: 'strong', nearest: false },
  ])
})

test('a name that took the place of another, at the same percent, is that judgement; one that moved as well is only the nearest', () => {
  expect(carryLabel(before, of(['weak', 30], ['good', 60], ['strong', 85]), 'sound')).toEqual({ label: 'good', nearest: false })
  expect(carryLabel(before, of(['weak', 30], ['good', 70], ['strong', 85]), 'sound')).toEqual({ label: 'good', nearest: true })
  // Two that changed places keep their names.
  expect(carryLabel(before, of(['sound', 30], ['weak', 60], ['strong', 85]), 'sound')).toEqual({ label: 'sound', nearest: false })
})

test('a label that is gone goes to the nearest percent, the lower of two as near', () => {
  expect(carryLabel(before, of(['weak', 50], ['strong', 70]), 'sound')).toEqual({ label: 'weak', nearest: true })
  expect(carryLabel(before, of(['strong', 70], ['weak', 50.5]), 'sound')).toEqual({ label: 'weak', nearest: true })
})

test('what the earlier version never had, and a scale without labels, carry nothing', () => {
  expect(carryLabel(before, before, 'fine')).toBeNull()
  expect(carryLabel(before, of(), 'sound')).toBeNull()
})

test('any label comes to one that is there, and to itself where nothing changed', () => {
  const scale = fc
    .uniqueArray(fc.tuple(fc.stringMatching(/^[a-c]{1,2}$/), fc.integer({ min: 0, max: 100 })), {
      minLength: 1,
      maxLength: 6,
      selector: ([name]) => name,
    })
    .map((labels) => of(...labels))
  fc.assert(
    fc.property(scale, scale, fc.nat(), (from, to, n) => {
      const { label } = from.labels[n % from.labels.length]!
      const carried = carryLabel(from, to, label)
      expect(carried === null || to.labels.some((l) => l.label === carried.label)).toBe(true)
      expect(carryLabel(from, from, label)).toEqual({ label, nearest: false })
    }),
    { seed: 37 },
  )
})
