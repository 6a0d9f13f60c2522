import fc from 'fast-check'
import { courses } from '../testing/courses'
import { oracle } from '../testing/oracle'
import { CourseError, type Course } from './course'
import { needed, openWork, whatIf } from './what-if'

/** Courses in which much is still open. */
const halfDone = fc.tuple(courses, fc.array(fc.boolean(), { minLength: 7, maxLength: 7 })).map(([course, open]): Course => ({
  ...course,
  marks: course.marks.map((m, i) => (open[i] ? { ...m, mark: null, status: m.status === 'late' ? 'late' : 'in' } : m)),
}))

const withMarks = (course: Course, marks: Record<string, number>): Course => ({
  ...course,
  marks: course.marks.map((m) =>
    m.assessmentId in marks ? { ...m, mark: marks[m.assessmentId]!, ...(m.status === 'late' ? {} : { status: 'in', daysLate: 0 }) } : m,
  ),
})

test('what would come of tried marks is what exact arithmetic says of a course that has them', () =>
  fc.assert(
    fc.property(halfDone, fc.array(fc.integer({ min: 0, max: 8 }), { minLength: 7, maxLength: 7 }), (course, eighths) => {
      const tried = Object.fromEntries(
        openWork(course, 'p').map((id, i) => [id, (course.assessments.find((a) => a.id === id)!.outOf * eighths[i]!) / 8]),
      )
      const then = whatIf(course, 'p', tried)
      const judge = oracle(withMarks(course, tried), 'p')
      expect(then.grade).toBe(judge.grade)
      expect(then.pending).toBe(0)
      if (judge.rounded) expect(then.rounded).toBeCloseTo(judge.rounded.valueOf(), 9)
      else expect(then.rounded).toBeNull()
    }),
    { numRuns: 300 },
  ))

test('what is needed reaches the grade, nothing smaller does, and what is out of reach is said to be so', () => {
  const met = { within: 0, out: 0 }
  fc.assert(
    fc.property(halfDone, fc.constantFrom('Distinction', 'Merit', 'Credit', 'Pass'), (course, grade) => {
      const order = course.boundaries.map((b) => b.grade)
      const open = openWork(course, 'p')
      const { within, marks, result } = needed(course, 'p', grade)
      met[within ? 'within' : 'out']++
      expect(Object.keys(marks).sort()).toEqual(open.toSorted())
      const reaches = (share: number) => {
        const all = Object.fromEntries(
          open.map((id) => {
            const { outOf, bonus } = course.assessments.find((a) => a.id === id)!
            return [id, bonus ? 0 : Math.min(outOf, Math.ceil(outOf * share * 2) / 2)]
          }),
        )
        const got = oracle(withMarks(course, all), 'p').grade
        return { all, yes: got !== null && order.indexOf(got) <= order.indexOf(grade) }
      }
      expect(oracle(withMarks(course, marks), 'p').grade).toBe(result.grade)
      expect(reaches(1).yes).toBe(within)
      if (!within) return
      for (let percent = 0; percent <= 100; percent += 4) {
        const { all, yes } = reaches(percent / 100)
        for (const id of open)
          if (yes) expect(marks[id]).toBeLessThanOrEqual(all[id]!)
          else expect(marks[id]).toBeGreaterThanOrEqual(all[id]!)
      }
    }),
    { numRuns: 200 },
  )
  expect(Math.min(met.within, met.out)).toBeGreaterThan(20)
})

describe('by hand', () => {
  const course: Course = {
    policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: { decimals: 0 }, above100: 'cap' },
    components: [
      { id: 'book', weight: 60, combine: 'byWorth', dropLowest: 0, bonus: false },
      { id: 'paper', weight: 40, combine: 'byWorth', dropLowest: 0, bonus: false },
    ],
    assessments: ['book', 'paper', 'day'].map((id) => ({
      id,
      componentId: id === 'paper' ? 'paper' : 'book',
      outOf: id === 'paper' ? 80 : 20,
      worth: 20,
      counts: true,
      bonus: id === 'day',
      droppable: false,
    })),
    placements: ['book', 'paper', 'day'].map((assessmentId) => ({ assessmentId, sectionId: 's' })),
    students: [{ id: 'p', sectionId: 's' }],
    marks: [{ studentId: 'p', assessmentId: 'book', mark: 12, status: 'in', daysLate: 0 }],
    boundaries: [
      { grade: 'Merit', from: 70 },
      { grade: 'Pass', from: 50 },
      { grade: 'Refer', from: 0 },
    ],
  }

  // 60% of 60 and x% of 40 are 69.5, which is rounded to 70: x = 83.75, 67 of 80.
  test('rounding counts for the student, and a bonus is asked of nobody', () => {
    expect(needed(course, 'p', 'Merit')).toMatchObject({
      within: true,
      marks: { paper: 67, day: 0 },
      result: { rounded: 70, grade: 'Merit' },
    })
    expect(needed(course, 'p', 'Merit', { day: 2 }).marks).toEqual({ day: 2, paper: 55 })
    expect(needed(course, 'p', 'Merit', { paper: 60 })).toMatchObject({ within: false, marks: { paper: 60, day: 0 } })
    expect(needed(course, 'p', 'Refer').marks).toEqual({ paper: 0, day: 0 })
  })

  test('strangers are named', () => {
    expect(() => needed(course, 'p', 'Gold')).toThrow(new CourseError('There is no grade Gold.', 'grade'))
    expect(() => whatIf(course, 'p', { viva: 3 })).toThrow(/no assessment viva/)
    expect(() => openWork(course, 'q')).toThrow(/q is not on the roll/)
  })
})
