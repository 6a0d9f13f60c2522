import fc from 'fast-check'
import { evenly } from './evenly'

const levels = fc.uniqueArray(fc.integer({ min: 0, max: 60 }), { minLength: 2, maxLength: 8 }).map((points) => points.sort((a, b) => a - b))

test('levels stand one step apart, whatever they are worth', () =>
  fc.assert(
    fc.property(levels, (points) => {
      const even = evenly(points.map((own) => ({ points: own })))
      expect(even.stops.map((s) => s.points)).toEqual(points.map((_, i) => i))
      expect(points.map(even.place)).toEqual(points.map((_, i) => i))
      expect(even.end).toBe(points.length - 1)
    }),
  ))

test('points inside a range lie between their level and the next, in order', () => {
  const { place, stops, end } = evenly([
    { points: 0, to: 3.5 },
    { points: 4, to: 6 },
    { points: 10, to: 12 },
  ])
  const places = [0, 1, 3.5, 4, 5, 6, 10, 11, 12].map(place)
  expect(places).toEqual([...places].sort((a, b) => a - b))
  expect([place(3.5), place(4), place(10)]).toEqual([0.875, 1, 2])
  expect(stops[1]).toEqual({ points: 1, to: place(6) })
  expect([place(12), end]).toEqual([2.6, 2.6])
  expect(evenly([]).end).toBe(0)
})
