import fc from 'fast-check'
import { METHOD_KINDS, methodOf, type AdjustmentMethod } from '#core/rescale'
import { tickStep } from '../../parts/ticks'
import { movePoint } from './move-point'

const startMethod = (kind: AdjustmentMethod['kind'], outOf: number) => methodOf(kind).start(outOf, tickStep(outOf))
const pullPoints = (method: AdjustmentMethod) => methodOf(method.kind).points?.of(method) ?? null
const withPoints = (method: AdjustmentMethod, points: [number, number][]) => methodOf(method.kind).points!.put(method, points)

test.each(METHOD_KINDS)('%s begins as something that changes nothing, but for the top', (kind) => {
  const method = startMethod(kind, 40)
  const points = pullPoints(method)
  if (points) {
    expect(points.every(([x, y]) => x === y)).toBe(true)
    expect(points[0]).toEqual([0, 0])
    expect(points.at(-1)).toEqual([40, 40])
    expect(withPoints(method, points)).toEqual(method)
  } else expect(method).toEqual({ add: { kind, by: 0 }, multiply: { kind, by: 1 }, topTo: { kind, to: 40 } }[kind as 'add'])
})

test('however a point is pulled, the points stay in order and inside the axis', () =>
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 4 }),
      fc.tuple(fc.double({ min: -50, max: 150, noNaN: true }), fc.double({ min: -50, max: 150, noNaN: true })),
      (at, to) => {
        const start = pullPoints(startMethod('curve', 80))!
        const moved = movePoint(start, at, to, 80, 0.5)
        expect(moved.filter((_, i) => i !== at)).toEqual(start.filter((_, i) => i !== at))
        for (let i = 0; i < moved.length; i++) {
          const [x, y] = moved[i]!
          expect(x).toBeGreaterThanOrEqual(0)
          expect(x).toBeLessThanOrEqual(80)
          expect(y).toBeLessThanOrEqual(80)
          expect((x * 2) % 1).toBe(0)
          if (i > 0) {
            expect(x).toBeGreaterThan(moved[i - 1]![0])
            expect(y).toBeGreaterThanOrEqual(moved[i - 1]![1])
          }
        }
      },
    ),
  ))
