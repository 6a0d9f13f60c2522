import fc from 'fast-check'
import { runs } from '../testing/runs'
import { courses } from '../testing/courses'
import { CourseError, type Course } from './course'
import { gradeCourse } from './grade-course'
import { effectiveWeights, weightProof } from './weights'

const plan: Course = {
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: null, above100: 'cap' },
  components: [
    { id: 'work', weight: 60, combine: 'byWorth', dropLowest: 0, bonus: false },
    { id: 'tests', weight: 40, combine: 'equally', dropLowest: 1, bonus: false },
    { id: 'extra', weight: 3, combine: 'byWorth', dropLowest: 0, bonus: true },
  ],
  assessments: [
    { id: 'essay', componentId: 'work', outOf: 50, worth: 20, counts: true, bonus: false, droppable: true },
    { id: 'map', componentId: 'work', outOf: 40, worth: 40, counts: true, bonus: false, droppable: true },
    { id: 'neat', componentId: 'work', outOf: 10, worth: 6, counts: true, bonus: true, droppable: true },
    { id: 't1', componentId: 'tests', outOf: 20, worth: 1, counts: true, bonus: false, droppable: true },
    { id: 't2', componentId: 'tests', outOf: 20, worth: 1, counts: true, bonus: false, droppable: true },
    { id: 'fair', componentId: 'extra', outOf: 5, worth: 5, counts: true, bonus: false, droppable: true },
    { id: 'try', componentId: 'work', outOf: 5, worth: 50, counts: false, bonus: false, droppable: true },
  ],
  placements: ['essay', 'map', 'neat', 't1', 't2', 'fair', 'try']
    .flatMap((assessmentId) => ['a', 'b'].map((sectionId) => ({ assessmentId, sectionId })))
    .filter((p) => p.assessmentId !== 'essay' || p.sectionId !== 'b'),
  students: [],
  marks: [],
  boundaries: [],
}

test('effective weights follow the plan, section by section', () => {
  const [a, b] = effectiveWeights(plan).map((s) => Object.fromEntries(s.weights.map((w) => [w.assessmentId, w.share ?? w.points])))
  expect(a).toEqual({ essay: expect.closeTo(0.2), map: expect.closeTo(0.4), neat: expect.closeTo(6), t1: 0.2, t2: 0.2, fair: 3 })
  // Without the essay the map carries all of its component.
  expect(b).toEqual({ map: expect.closeTo(0.6), neat: expect.closeTo(9), t1: 0.2, t2: 0.2, fair: 3 })
})

test('the proof runs the engine and its falls are the plan’s; where one is dropped a second zero is shown', () => {
  const proof = weightProof(plan, 'a')
  expect(proof.full).toBe(100)
  expect(proof.holds).toBe(true)
  const falls = Object.fromEntries(proof.rows.map((r) => [r.zeroed.join('+'), Number(r.fallsBy.toFixed(9))]))
  expect(falls).toEqual({ essay: 20, map: 40, neat: -6, t1: 0, 't1+t2': 40, t2: 0, 't2+t1': 40, fair: -3 })
})

test('in any plan the shares of a section sum to 1 and the proof holds', () => {
  fc.assert(
    fc.property(courses, (any) => {
      // Work worth nothing beside a drop can leave a component without a percent; there is nothing to prove then.
      const course = { ...any, assessments: any.assessments.map((a) => ({ ...a, worth: a.worth || 7 })) }
      for (const { sectionId, weights } of effectiveWeights(course)) {
        const ordinary = weights.filter((w) => w.share !== null)
        const sum = ordinary.reduce((s, w) => s + w.share!, 0)
        if (ordinary.length > 0 && sum > 0) expect(sum).toBeCloseTo(1, 12)
        if (sum > 0) expect(weightProof(course, sectionId).holds).toBe(true)
      }
    }),
    { numRuns: runs(500) },
  )
})

test('a section with nothing set has no proof', () => {
  expect(() => weightProof(plan, 'nowhere')).toThrow(CourseError)
})

test('a lower worth and a lower fraction: the one whose removal leaves the greatest percent is dropped', () => {
  // 80 of 100, 20 of 100 and 1 of 20: the lowest fraction is the last, the best one to drop the second.
  const marks = [
    [80, 100],
    [20, 100],
    [1, 20],
  ] as const
  const course: Course = {
    ...plan,
    components: [{ id: 'c', weight: 1, combine: 'byWorth', dropLowest: 1, bonus: false }],
    assessments: marks.map(([, outOf], i) => ({
      id: `q${i}`,
      componentId: 'c',
      outOf,
      worth: outOf,
      counts: true,
      bonus: false,
      droppable: true,
    })),
    placements: marks.map((_, i) => ({ assessmentId: `q${i}`, sectionId: 'a' })),
    students: [{ id: 'p', sectionId: 'a' }],
    marks: marks.map(([mark], i) => ({ studentId: 'p', assessmentId: `q${i}`, mark, status: 'in', daysLate: 0 })),
  }
  const graded = gradeCourse(course)
  expect(graded.students[0]).toMatchObject({ final: 67.5 })
  expect(graded.componentsAt(0)).toMatchObject([{ dropped: ['q1'] }])
})
