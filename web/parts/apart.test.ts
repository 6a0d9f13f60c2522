import fc from 'fast-check'
import { apart } from './apart'

test('what has room stays where it is; what overlaps is moved apart, and nothing stands outside', () => {
  expect(apart([50, 150], [40, 40], 200)).toEqual([50, 150])
  expect(apart([50, 60], [40, 40], 200)).toEqual([50, 90])
  expect(apart([0, 195, 199], [20, 20, 20], 200)).toEqual([10, 170, 190])
  expect(apart([10, 20], [60, 60], 100)).toBeNull()
})

test('whatever the labels, none overlap', () => {
  const labels = fc.array(fc.record({ at: fc.integer({ min: 0, max: 700 }), width: fc.integer({ min: 5, max: 90 }) }), { maxLength: 12 })
  fc.assert(
    fc.property(labels, (given) => {
      const sorted = [...given].sort((a, b) => a.at - b.at)
      const widths = sorted.map((l) => l.width)
      const placed = apart(
        sorted.map((l) => l.at),
        widths,
        700,
      )
      if (widths.reduce((n, w) => n + w, 0) > 700) return expect(placed).toBeNull()
      placed!.forEach((x, i) => {
        expect(x - widths[i]! / 2).toBeGreaterThanOrEqual(i === 0 ? -1e-9 : placed![i - 1]! + widths[i - 1]! / 2 - 1e-9)
        expect(x + widths[i]! / 2).toBeLessThanOrEqual(700 + 1e-9)
      })
    }),
  )
})
