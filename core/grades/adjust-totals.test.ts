import fc from 'fast-check'
import { packCourse } from './pack'
import { courses } from '../testing/courses'
import { oracle } from '../testing/oracle'
import { runs } from '../testing/runs'
import { highestPercent } from './adjust-totals'
import type { Course, TotalAdjustment } from './course'
import { explainGrade } from './explain-grade'
import { gradeCourse, gradePacked } from './grade-course'
import { regradePacked, regradeStudents, regradeTotals } from './regrade'

const half = (n: number) => n / 2
const percent = fc.integer({ min: 0, max: 200 }).map(half)
const method: fc.Arbitrary<TotalAdjustment['method']> = fc.oneof(
  fc.record({ kind: fc.constant('add' as const), by: fc.constantFrom(-2, 0.5, 3, 9.5, -100) }),
  fc.record({ kind: fc.constant('multiply' as const), by: fc.constantFrom(0.5, 1, 1.05, 1.1) }),
  fc.record({ kind: fc.constant('topTo' as const), to: fc.constantFrom(69.5, 80, 100) }),
  fc.record({
    kind: fc.constant('line' as const),
    from: fc.constantFrom<[number, number]>([0, 10], [0, 0], [40, 49.5]),
    to: fc.constantFrom<[number, number]>([100, 100], [60, 69.5]),
  }),
  fc.uniqueArray(percent, { minLength: 2, maxLength: 5 }).chain((xs) =>
    fc.array(percent, { minLength: xs.length, maxLength: xs.length }).map((ys) => ({
      kind: 'curve' as const,
      points: xs.sort((a, b) => a - b).map((x, i): [number, number] => [x, [...ys].sort((a, b) => a - b)[i]!]),
    })),
  ),
)
const adjustments = fc.array(fc.record({ method, neverLower: fc.boolean() }), { minLength: 1, maxLength: 3 })

/** Three students of one course, so that the best of them is not always the one looked at. */
const cohorts = fc
  .tuple(courses, adjustments, fc.tuple(fc.constantFrom(0, 0.5, 1, 1.02), fc.constantFrom(0.25, 1, 1.1)))
  .map(([course, list, factors]): Course => ({
    ...course,
    adjustments: list,
    students: ['p', 'q', 'r'].map((id) => ({ id, sectionId: 's' })),
    marks: ['p', 'q', 'r'].flatMap((studentId, i) =>
      course.marks.map((m) => ({
        ...m,
        studentId,
        mark: i === 0 || m.mark === null ? m.mark : Number((m.mark * factors[i - 1]!).toFixed(3)),
      })),
    ),
  }))

test('adjusted percents and their grades are those of exact fractions, at ties as well', () => {
  let onLines = 0
  fc.assert(
    fc.property(cohorts, (course) => {
      for (const got of gradeCourse(course).students) {
        const want = oracle(course, got.studentId)
        if (want.adjusted === null || got.adjusted === null) {
          expect(got.adjusted).toBe(want.adjusted)
          continue
        }
        expect(Math.abs(got.adjusted - want.adjusted.valueOf())).toBeLessThan(1e-9)
        expect([got.grade, got.final === null]).toEqual([want.grade, false])
        if (course.policy.rounding) expect(got.rounded).toBe(want.rounded!.valueOf())
        if (course.boundaries.some((b) => b.from > 0 && want.rounded!.equals(b.from))) onLines++
      }
    }),
    { numRuns: runs(1500) },
  )
  expect(onLines).toBeGreaterThan(30)
})

test('worked out again in part it is what it is as a whole: other adjustments, other lines, some students', () => {
  fc.assert(
    fc.property(cohorts, adjustments, (course, others) => {
      const packed = packCourse(course)
      const whole = gradePacked(packed)
      for (const list of [others, []]) {
        const anew = { ...packed, adjustments: list }
        expect(regradeTotals(anew, whole)).toEqual(gradePacked(anew))
      }
      const lines = { ...packed, boundaries: packed.boundaries.map((b) => ({ ...b, from: b.from === 0 ? 0 : b.from - 0.5 })) }
      expect(regradePacked(lines, whole)).toEqual(gradePacked(lines))
      const marks = { ...packed, mark: packed.mark.map((m, i) => (i < packed.assessmentIds.length ? m / 2 : m)) }
      expect(regradeStudents(marks, whole, [0], packed.assessmentIds.keys())).toEqual(gradePacked(marks))
    }),
    { numRuns: runs(400) },
  )
})

test('what is explained is what was computed, adjustment by adjustment', () => {
  fc.assert(
    fc.property(cohorts, (course) => {
      const { chain: _, steps, ...figures } = explainGrade(course, 'q')
      expect(figures).toEqual(gradeCourse(course).students[1])
      const told = steps.filter((s) => s.kind === 'adjustment')
      expect(told).toHaveLength(figures.final === null ? 0 : course.adjustments!.length)
      expect(told.at(-1)?.value ?? null).toBe(figures.final === null ? null : figures.adjusted)
    }),
    { numRuns: runs(300) },
  )
})

const thirds = (adjustments: TotalAdjustment[] = []): Course => ({
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: null, above100: 'allow' },
  components: [{ id: 'c', weight: 100, combine: 'byWorth', dropLowest: 0, bonus: false }],
  assessments: [{ id: 'a', componentId: 'c', outOf: 3, worth: 1, counts: true, bonus: false, droppable: true }],
  placements: [{ assessmentId: 'a', sectionId: 's' }],
  students: ['p', 'q'].map((id) => ({ id, sectionId: 's' })),
  marks: [2, 1].map((mark, i) => ({ studentId: 'pq'[i]!, assessmentId: 'a', mark, status: 'in', daysLate: 0 })),
  boundaries: [
    { grade: 'Distinction', from: 80 },
    { grade: 'Refer', from: 0 },
  ],
  adjustments,
})

test('the best is brought to a line exactly, and fixed by the fraction it was it stays there for whoever comes later', () => {
  const course = thirds()
  const packed = packCourse(course)
  const highest = highestPercent(packed, gradePacked(packed))!
  expect(highest).toBe('200/3')
  const fixed = { method: { kind: 'topTo' as const, to: 80, highest }, neverLower: false }
  for (const a of [fixed, { ...fixed, method: { kind: 'topTo' as const, to: 80 } }])
    expect(gradeCourse(thirds([a])).students.map((s) => [s.adjusted, s.grade])).toEqual([
      [80, 'Distinction'],
      [46.666666666666664, 'Refer'],
    ])
  // A better one comes: the others keep what they were given.
  const later = { ...thirds([fixed]), marks: [3, 2].map((mark, i) => ({ ...course.marks[i]!, mark })) }
  expect(gradeCourse(later).students.map((s) => s.adjusted)).toEqual([113.33333333333333, 80])
})
