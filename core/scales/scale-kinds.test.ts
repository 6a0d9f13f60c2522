import fc from 'fast-check'
import { checkScale } from './check-scale'
import { scaleLabel, scaleValue } from './scale'
import { doneScale, gradesScale, judgementScale, pointsScale } from './scale-kinds'

test('points 0 to n: out of n each is itself, and is read back as itself', () =>
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 100 }), (n) => {
      const scale = pointsScale(n)
      expect(checkScale(scale)).toEqual([])
      for (let i = 0; i <= n; i++) {
        const percent = scaleValue(scale, String(i))!
        expect(Number(((percent / 100) * n).toFixed(3))).toBe(i)
        expect(scaleLabel(scale, percent)).toBe(String(i))
      }
    }),
  ))

test('points to less than 1, to a broken number or to more than 100 are refused', () => {
  for (const n of [0, -3, 2.5, 101, Number.NaN]) expect(() => pointsScale(n)).toThrow(RangeError)
})

test('only what is wholly done is read back as done', () => {
  expect([scaleLabel(doneScale(), 99.9), scaleLabel(doneScale(), 100), scaleValue(doneScale(), 'not done')]).toEqual([
    'not done',
    'done',
    0,
  ])
  expect([checkScale(doneScale()), checkScale(judgementScale())]).toEqual([[], []])
})

test('grades stand for the middle of what gets them and are read back from their boundary', () => {
  const scale = gradesScale([
    { grade: 'Merit', from: 60 },
    { grade: 'Refer', from: 0 },
    { grade: 'Pass', from: 40 },
  ])
  expect(scale.labels).toEqual([
    { label: 'Refer', percent: 20, threshold: 0 },
    { label: 'Pass', percent: 50, threshold: 40 },
    { label: 'Merit', percent: 80, threshold: 60 },
  ])
  expect(checkScale(scale)).toEqual([])
  expect([39.99, 40, 59.9, 60].map((p) => scaleLabel(scale, p))).toEqual(['Refer', 'Pass', 'Pass', 'Merit'])
})
