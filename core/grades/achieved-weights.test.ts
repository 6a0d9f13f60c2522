import fc from 'fast-check'
import Fraction from 'fraction.js'
import { courses } from '../testing/courses'
import { achievedWeights } from './achieved-weights'
import type { Course } from './course'

const course = (marks: [number, number][], more: Partial<Course> = {}): Course => ({
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: null, above100: 'allow' },
  components: [{ id: 'c', weight: 100, combine: 'byWorth', dropLowest: 0, bonus: false }],
  assessments: ['a', 'b'].map((id) => ({ id, componentId: 'c', outOf: 10, worth: 1, counts: true, bonus: false, droppable: true })),
  placements: ['a', 'b'].map((assessmentId) => ({ assessmentId, sectionId: 's' })),
  students: marks.map((_, i) => ({ id: `s${i}`, sectionId: 's' })),
  marks: marks.flatMap((own, i) =>
    own.map((mark, k) => ({ studentId: `s${i}`, assessmentId: 'ab'[k]!, mark, status: 'in' as const, daysLate: 0 })),
  ),
  boundaries: [],
  ...more,
})
const shares = (c: Course) => achievedWeights(c).map((w) => w.share)

test('what does not differ decides nothing, whatever its weight', () => {
  const of = shares(
    course([
      [2, 7],
      [8, 7],
      [5, 7],
    ]),
  )
  expect(of[0]).toBeCloseTo(1, 12)
  expect(of[1]).toBeCloseTo(0, 12)
})

test('shares are covariances with the percent over its variance, held against exact fractions', () =>
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 0, max: 10 }), fc.integer({ min: 0, max: 10 })), { minLength: 2, maxLength: 9 }),
      (marks) => {
        const total = marks.map(([a, b]) => new Fraction(a + b).mul(5))
        const mean = (xs: Fraction[]) => xs.reduce((s, x) => s.add(x), new Fraction(0)).div(xs.length)
        const around = (xs: Fraction[]) => xs.map((x) => x.sub(mean(xs)))
        const dot = (xs: Fraction[], ys: Fraction[]) => xs.reduce((s, x, i) => s.add(x.mul(ys[i]!)), new Fraction(0))
        const t = around(total)
        const variance = dot(t, t)
        const got = shares(course(marks))
        if (variance.equals(0)) return expect(got).toEqual([null, null])
        for (const k of [0, 1]) {
          const x = around(marks.map((own) => new Fraction(own[k]!).mul(5)))
          expect(got[k]!).toBeCloseTo(dot(x, t).div(variance).valueOf(), 9)
        }
      },
    ),
  ))

test('what is dropped decides nothing for whom it is dropped, and shares sum to one where nothing is capped', () =>
  fc.assert(
    fc.property(courses, fc.array(fc.constantFrom(0, 0.25, 0.5, 0.9, 1), { minLength: 3, maxLength: 5 }), (one, factors) => {
      const many: Course = {
        ...one,
        policy: { ...one.policy, above100: 'allow' },
        students: factors.map((_, i) => ({ id: `p${i}`, sectionId: 's' })),
        marks: factors.flatMap((f, i) => one.marks.map((m) => ({ ...m, studentId: `p${i}`, mark: m.mark === null ? null : m.mark * f }))),
      }
      const got = shares(many)
      if (got.every((x) => x === null)) return
      expect(got.reduce<number>((s, x) => s + x!, 0)).toBeCloseTo(1, 6)
    }),
  ))

test('nobody, or one alone, or all alike: nothing can be told', () => {
  expect(shares(course([]))).toEqual([null, null])
  expect(shares(course([[3, 4]]))).toEqual([null, null])
  expect(
    shares(
      course([
        [3, 4],
        [4, 3],
      ]),
    ),
  ).toEqual([null, null])
})
