import fc from 'fast-check'
import type { Policy } from '../grades/course'
import { countedMark } from './counted-mark'

const policy = {
  missing: { kind: 'floor', percent: 20 },
  absent: { kind: 'zero' },
  late: { kind: 'perDay', percent: 5, maxDays: 3 },
} satisfies Pick<Policy, 'missing' | 'absent' | 'late'>

test.each([
  [
    { mark: 8.5, status: 'in', daysLate: 0 },
    { marked: 8.5, rescaled: 0, late: 0, counts: 8.5 },
  ],
  [
    { mark: 8.5, plain: 8, status: 'late', daysLate: 2 },
    { marked: 8, rescaled: 0.5, late: -1, counts: 7.5 },
  ],
  [
    { mark: 1, status: 'late', daysLate: 9 },
    { marked: 1, rescaled: 0, late: -1, counts: 0 },
  ],
  [
    { mark: 8.5, status: 'missing', daysLate: 0 },
    { marked: null, rescaled: 0, late: 0, counts: 2 },
  ],
  [
    { mark: null, status: 'absent', daysLate: 0 },
    { marked: null, rescaled: 0, late: 0, counts: 0 },
  ],
  [
    { mark: 8.5, status: 'held', daysLate: 0 },
    { marked: null, rescaled: 0, late: 0, counts: null },
  ],
  [
    { mark: null, status: 'exempt', daysLate: 0 },
    { marked: null, rescaled: 0, late: 0, counts: null },
  ],
] as const)('%j', (mark, counted) => expect(countedMark(mark, 10, policy)).toEqual(counted))

test('what was marked, what rescaling added and what lateness took make what counts', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 80 }),
      fc.integer({ min: 0, max: 80 }),
      fc.boolean(),
      fc.integer({ min: 0, max: 9 }),
      (a, b, isLate, days) => {
        const c = countedMark({ mark: a / 4, plain: b / 4, status: isLate ? 'late' : 'in', daysLate: days }, 20, policy)
        expect(c.marked! + c.rescaled + c.late).toBeCloseTo(c.counts!, 9)
        expect(c.late).toBeLessThanOrEqual(0)
      },
    ),
  )
})
