import fc from 'fast-check'
import { courses } from '../testing/courses'
import { oracle } from '../testing/oracle'
import { runs } from '../testing/runs'
import type { Course } from './course'
import { gradeCourse, gradePacked } from './grade-course'
import { gradeTried } from './grade-tried'
import { packCourse } from './pack'

/** Another mark of one student in place of what was there. */
const withMark = (course: Course, studentId: string, assessmentId: string, mark: number): Course => ({
  ...course,
  marks: [
    ...course.marks.filter((m) => m.studentId !== studentId || m.assessmentId !== assessmentId),
    {
      status: 'in',
      daysLate: 0,
      ...course.marks.find((m) => m.studentId === studentId && m.assessmentId === assessmentId),
      studentId,
      assessmentId,
      mark,
    },
  ],
})

test('each mark that is tried gives what exact arithmetic makes of the course with it', () => {
  fc.assert(
    fc.property(courses, fc.integer({ min: 0, max: 8 }), (course, eighths) => {
      const packed = packCourse(course)
      const marks = course.assessments.map((a) => (a.outOf * eighths) / 8)
      const columns = course.assessments.map((a) => packed.assessmentIds.indexOf(a.id))
      const found = gradeTried(
        packed,
        gradePacked(packed),
        marks.map((mark, i) => ({ student: packed.studentIds.indexOf('p'), column: columns[i]!, mark })),
      )
      course.assessments.forEach((a, i) => {
        const want = oracle(withMark(course, 'p', a.id, marks[i]!), 'p')
        const grade = found.grade[i]!
        expect(grade < 0 ? null : gradePacked(packed).boundaries[grade]!.grade).toBe(want.grade)
        if (want.soFar) expect(found.soFar[i]).toBeCloseTo(want.soFar.valueOf(), 9)
        else expect(found.soFar[i]).toBeNaN()
      })
    }),
    { numRuns: runs(600) },
  )
})

test('a total brought to a value stays by as much as it is, whatever one student would have had; conditions hold', () => {
  const course: Course = {
    policy: {
      missing: { kind: 'zero' },
      absent: { kind: 'pending' },
      late: { kind: 'none' },
      rounding: { decimals: 0 },
      above100: 'cap',
    },
    components: [{ id: 'c', weight: 1, combine: 'byWorth', dropLowest: 0, bonus: false }],
    assessments: [{ id: 'a', componentId: 'c', outOf: 20, worth: 20, counts: true, bonus: false, droppable: true }],
    placements: [{ assessmentId: 'a', sectionId: 'x' }],
    students: ['p', 'q'].map((id) => ({ id, sectionId: 'x' })),
    marks: [
      { studentId: 'p', assessmentId: 'a', mark: 8, status: 'in', daysLate: 0 },
      { studentId: 'q', assessmentId: 'a', mark: 16, status: 'in', daysLate: 0 },
    ],
    boundaries: [
      { grade: 'Merit', from: 60 },
      { grade: 'Pass', from: 40 },
      { grade: 'Refer', from: 0 },
    ],
    adjustments: [{ method: { kind: 'topTo', to: 90 }, neverLower: false }],
    conditions: [{ assessmentId: 'a', least: 55, atMost: 'Pass' }],
  }
  // 80 is brought to 90, so everybody is lifted by 10.
  expect(gradeCourse(course).students.map((s) => [s.adjusted, s.grade])).toEqual([
    [50, 'Pass'],
    [90, 'Merit'],
  ])
  const packed = packCourse(course)
  const tried = [10, 12, 20].map((mark) => ({ student: 0, column: 0, mark }))
  const { adjusted, grade } = gradeTried(packed, gradePacked(packed), [...tried, { student: 0, column: -1, mark: 20 }])
  expect([...adjusted]).toEqual([60, 70, 100, 50])
  // 50% of the work is too little for Merit, though 60 would be enough of the whole.
  expect([...grade]).toEqual([1, 0, 0, 1])
})
