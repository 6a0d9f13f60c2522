import fc from 'fast-check'
import { courses } from '../testing/courses'
import { oracle } from '../testing/oracle'
import { oneMark } from './one-mark'

test('one mark more or less decides just where exact arithmetic says so', () => {
  let decided = 0
  fc.assert(
    fc.property(courses, (course) => {
      const order = course.boundaries.map((b) => b.grade)
      const gradeWith = (assessmentId: string, by: number) => {
        const marks = course.marks.map((m) => (m.assessmentId === assessmentId ? { ...m, mark: m.mark! + by } : m))
        return order.indexOf(oracle({ ...course, marks }, 'p').grade!)
      }
      const now = oracle(course, 'p').grade
      const { up, down } = oneMark(course, 'p')
      for (const a of course.assessments) {
        const { mark, status } = course.marks.find((m) => m.assessmentId === a.id)!
        const may = a.counts && mark !== null && (status === 'in' || status === 'late') && now !== null
        expect(up.includes(a.id)).toBe(may && mark + 1 <= a.outOf && gradeWith(a.id, 1) < order.indexOf(now))
        expect(down.includes(a.id)).toBe(may && mark >= 1 && gradeWith(a.id, -1) > order.indexOf(now))
      }
      decided += up.length + down.length
    }),
    { numRuns: 400 },
  )
  expect(decided).toBeGreaterThan(50)
})
