import fc from 'fast-check'
import { rationalOf, toNumber } from '#core/grades'
import { kindOnReadings, markMethodOf, METHOD_KINDS, type MarkKind } from '#core/rescale'
import { tickStep } from '../../parts/ticks'
import { movePoint } from './move-point'

const start = (kind: MarkKind, marks = [12, 30, 21]) => markMethodOf(kind).start({ outOf: 40, tick: tickStep(40), marks })

test.each(METHOD_KINDS.filter((kind): kind is MarkKind => !kindOnReadings(kind)))(
  '%s begins as something that changes nothing, but for the top',
  (kind) => {
    const method = start(kind)
    const { points, map } = markMethodOf(kind)
    const change = map(method, [12, 30, 21])
    expect([12, 21, 30].map((x) => toNumber(change(rationalOf(x))))).toEqual(kind === 'topTo' ? [22, 31, 40] : [12, 21, 30])
    if (points) expect(points.put(method, points.read(method))).toEqual(method)
  },
)

test('however a point is pulled, the points stay in order and inside the axis', () =>
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 4 }),
      fc.tuple(fc.double({ min: -50, max: 150, noNaN: true }), fc.double({ min: -50, max: 150, noNaN: true })),
      (at, to) => {
        const { points, start: first } = markMethodOf('curve')
        const start = points!.read(first({ outOf: 80, tick: tickStep(80), marks: [] }))
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
