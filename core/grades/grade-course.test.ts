import fc from 'fast-check'
import { runs } from '../testing/runs'
import type Fraction from 'fraction.js'
import { courses } from '../testing/courses'
import { oracle } from '../testing/oracle'
import { CourseError, type Course } from './course'
import { explainGrade } from './explain-grade'
import { gradeCourse } from './grade-course'

const close = (value: number | null, exact: Fraction | null) => {
  if (exact === null || value === null) expect(value).toBe(exact)
  else expect(Math.abs(value - exact.valueOf())).toBeLessThan(1e-9)
}

test('agrees with exact arithmetic and with every choice of drops tried, on courses that sit on ties', () => {
  let ties = 0
  let held = 0
  fc.assert(
    fc.property(courses, (course) => {
      const graded = gradeCourse(course)
      const got = graded.students[0]!
      const want = oracle(course, 'p')
      close(got.soFar, want.soFar)
      close(got.lowest, want.lowest)
      close(got.highest, want.highest)
      close(got.final, want.final)
      expect(got.pending).toBe(want.pending)
      expect(got.grade).toBe(want.grade)
      expect(got.heldBy).toEqual(want.heldBy)
      if (got.heldBy.length > 0) held++
      if (want.rounded === null) expect(got.rounded).toBeNull()
      else if (course.policy.rounding) expect(got.rounded).toBe(want.rounded.valueOf())
      graded.componentsAt(0).forEach((c, i) => {
        close(c.percent, want.components[i]!.percent)
        expect(c.dropped).toEqual(want.components[i]!.dropped)
      })
      if (want.final && want.rounded && course.policy.rounding && !want.final.equals(want.rounded)) {
        const scaled = want.final.mul(10 ** course.policy.rounding.decimals)
        if (scaled.sub(scaled.floor()).equals('1/2')) ties++
      }
    }),
    { numRuns: runs(6000) },
  )
  expect(ties).toBeGreaterThan(20)
  expect(held).toBeGreaterThan(200)
})

test('the order of students, sections, assessments and components never changes a figure', () => {
  fc.assert(
    fc.property(courses, fc.integer(), (course, seed) => {
      const turned: Course = {
        ...course,
        components: turn(course.components, seed),
        assessments: turn(course.assessments, seed + 1),
        placements: turn(course.placements, seed + 2),
        marks: turn(course.marks, seed + 3),
        boundaries: turn(course.boundaries, seed + 4),
      }
      const [plain, other] = [gradeCourse(course), gradeCourse(turned)]
      expect(other.students[0]).toEqual(plain.students[0])
      for (const c of plain.componentsAt(0))
        expect(other.componentsAt(0).find((x) => x.componentId === c.componentId)!.percent).toBe(c.percent)
    }),
    { numRuns: runs(1500) },
  )
})

test('what explainGrade explains is what gradeCourse computed', () => {
  fc.assert(
    fc.property(courses, (course) => {
      const { chain, steps, ...figures } = explainGrade(course, 'p')
      expect(figures).toEqual(gradeCourse(course).students[0])
      const courseStep = steps.find((s) => s.kind === 'course')!
      expect(courseStep.value).toBe(figures.final ?? figures.soFar)
      const ordinary = chain.filter((c) => c.share !== null)
      if (figures.soFar !== null && figures.soFar > 0 && figures.soFar < 100) {
        const points = chain.reduce((t, c) => t + (c.points ?? 0), 0)
        expect(points).toBeCloseTo(figures.soFar, 9)
        expect(ordinary.reduce((t, c) => t + c.share!, 0)).toBeCloseTo(1, 12)
      }
    }),
    { numRuns: runs(800) },
  )
})

const turn = <T>(list: T[], by: number): T[] => {
  const at = list.length === 0 ? 0 : Math.abs(by) % list.length
  const turned = [...list.slice(at), ...list.slice(0, at)]
  return by % 2 === 0 ? turned : turned.reverse()
}

const plain: Course = {
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: { decimals: 0 }, above100: 'cap' },
  components: [{ id: 'c', weight: 100, combine: 'byWorth', dropLowest: 0, bonus: false }],
  assessments: [{ id: 'a', componentId: 'c', outOf: 100, worth: 10, counts: true, bonus: false, droppable: true }],
  placements: [{ assessmentId: 'a', sectionId: 's' }],
  students: [{ id: 'p', sectionId: 's' }],
  marks: [{ studentId: 'p', assessmentId: 'a', mark: 89.5, status: 'in', daysLate: 0 }],
  boundaries: [
    { grade: 'A', from: 90 },
    { grade: 'B', from: 0 },
  ],
}

test('89.5 is 90, also when it comes as a sum that doubles miss', () => {
  expect(gradeCourse(plain).students[0]).toMatchObject({ final: 89.5, rounded: 90, grade: 'A' })
  // 0.1 + 0.7 style sums: three components of 29.85, 29.75 and 29.9 points
  const three: Course = {
    ...plain,
    components: ['x', 'y', 'z'].map((id) => ({ id, weight: 1, combine: 'byWorth', dropLowest: 0, bonus: false })),
    assessments: ['x', 'y', 'z'].map((id) => ({ id, componentId: id, outOf: 3, worth: 0.1, counts: true, bonus: false, droppable: true })),
    placements: ['x', 'y', 'z'].map((assessmentId) => ({ assessmentId, sectionId: 's' })),
    marks: [2.985, 2.97, 2.1].map((mark, i) => ({ studentId: 'p', assessmentId: 'xyz'[i]!, mark, status: 'in', daysLate: 0 })),
  }
  expect(gradeCourse(three).students[0]).toMatchObject({ final: 89.5, rounded: 90, grade: 'A' })
})

test('a mean of three readings that sits on a tie is taken for the fraction it is', () => {
  const thirds: Course = {
    ...plain,
    components: ['x', 'y'].map((id) => ({ id, weight: 1, combine: 'byWorth', dropLowest: 0, bonus: false })),
    assessments: ['x', 'y'].map((id) => ({ id, componentId: id, outOf: 100, worth: 1, counts: true, bonus: false, droppable: true })),
    placements: ['x', 'y'].map((assessmentId) => ({ assessmentId, sectionId: 's' })),
    marks: [185 / 3, 352 / 3].map((mark, i) => ({ studentId: 'p', assessmentId: 'xy'[i]!, mark, status: 'in', daysLate: 0 })),
  }
  expect(gradeCourse(thirds).students[0]).toMatchObject({ final: 89.5, grade: 'A' })
})

test.each([
  ['a blank is pending, never a zero', { mark: null, status: 'in' }, { final: null, pending: 1, lowest: 0, highest: 100, grade: null }],
  ['a late without a mark is pending', { mark: null, status: 'late' }, { final: null, pending: 1 }],
  ['held is pending whatever stands in the cell', { mark: 70, status: 'held' }, { final: null, soFar: null, pending: 1 }],
  ['exempt does not apply', { mark: null, status: 'exempt' }, { final: null, pending: 0, soFar: null, lowest: null }],
  ['missing is nothing under this policy', { mark: null, status: 'missing' }, { final: 0, rounded: 0, grade: 'B' }],
] as const)('%s', (_, mark, want) => {
  expect(gradeCourse({ ...plain, marks: [{ studentId: 'p', assessmentId: 'a', daysLate: 0, ...mark }] }).students[0]).toMatchObject(want)
})

test('a course that contradicts itself is refused with the place', () => {
  const errorOf = (course: Course): CourseError => {
    try {
      gradeCourse(course)
    } catch (e) {
      if (e instanceof CourseError) return e
    }
    throw new Error('was not refused')
  }
  expect(errorOf({ ...plain, marks: [{ ...plain.marks[0]!, studentId: 'q' }] }).path).toBe('marks[0].studentId')
  expect(errorOf({ ...plain, marks: [plain.marks[0]!, plain.marks[0]!] }).path).toBe('marks[1]')
  expect(errorOf({ ...plain, marks: [{ ...plain.marks[0]!, mark: NaN }] }).path).toBe('marks[0].mark')
  expect(errorOf({ ...plain, assessments: [{ ...plain.assessments[0]!, outOf: 0 }] }).path).toBe('assessments[0].outOf')
  expect(errorOf({ ...plain, assessments: [{ ...plain.assessments[0]!, componentId: 'x' }] }).path).toBe('assessments[0].componentId')
})
