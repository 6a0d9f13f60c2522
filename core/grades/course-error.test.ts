import fc from 'fast-check'
import { courses } from '../testing/courses'
import { oracle } from '../testing/oracle'
import { runs } from '../testing/runs'
import type { Course } from './course'
import { courseError } from './course-error'

const errorsOf = (course: Course, error = 3) => Object.fromEntries(course.assessments.map((a) => [a.id, { error }]))
const NUDGE = 0.001

test('one mark more in an assessment moves the course percent by the weight that its part has', () => {
  fc.assert(
    fc.property(courses, (drawn) => {
      const course: Course = { ...drawn, policy: { ...drawn.policy, above100: 'allow' } }
      const [own] = courseError(course, errorsOf(course)).students
      const before = oracle(course, 'p')
      for (const part of own!.parts) {
        const nudged = course.marks.map((m) =>
          m.assessmentId === part.assessmentId ? { ...m, mark: Number((m.mark! + NUDGE).toFixed(3)) } : m,
        )
        const after = oracle({ ...course, marks: nudged }, 'p')
        const late = course.marks.find((m) => m.assessmentId === part.assessmentId)!.status === 'late'
        const dropped = (r: typeof before) => r.components.map((c) => c.dropped.join())
        // A nudge that changes what is dropped, that lateness takes away, or that starts below nothing is another question.
        if (late || String(dropped(before)) !== String(dropped(after)) || before.soFar!.valueOf() <= 0) continue
        expect(after.soFar!.sub(before.soFar!).valueOf() / NUDGE).toBeCloseTo(part.weight, 6)
      }
    }),
    { numRuns: runs(300) },
  )
})

const plan: Course = {
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: null, above100: 'cap' },
  components: [
    { id: 'work', weight: 60, combine: 'byWorth', dropLowest: 1, bonus: false },
    { id: 'exam', weight: 40, combine: 'byWorth', dropLowest: 0, bonus: false },
  ],
  assessments: ['one', 'two', 'paper'].map((id) => ({
    id,
    componentId: id === 'paper' ? 'exam' : 'work',
    outOf: id === 'paper' ? 80 : 20,
    worth: 10,
    counts: true,
    bonus: false,
    droppable: true,
  })),
  placements: ['one', 'two', 'paper'].map((assessmentId) => ({ assessmentId, sectionId: 's' })),
  students: [{ id: 'p', sectionId: 's' }],
  marks: [
    { studentId: 'p', assessmentId: 'one', mark: 8, status: 'in', daysLate: 0 },
    { studentId: 'p', assessmentId: 'two', mark: 15, status: 'in', daysLate: 0 },
    { studentId: 'p', assessmentId: 'paper', mark: 50, status: 'in', daysLate: 0 },
  ],
  boundaries: [{ grade: 'Pass', from: 0 }],
}

test('variances add up, a second reading halves its own, what is dropped carries none, and what is not known is named', () => {
  const { students, unknown } = courseError(plan, {
    one: { error: 9 },
    two: { error: 1, readings: [2] },
    paper: { error: 4 },
  })
  // 60% over 20 marks: 3 percents a mark; 40% over 80: half of one.
  expect(students[0]!.se).toBeCloseTo(Math.sqrt(3 ** 2 / 2 + 2 ** 2), 12)
  expect(unknown).toEqual([])
  expect(courseError(plan, { two: { error: null } })).toMatchObject({ students: [{ se: 0 }], unknown: ['two', 'paper'] })
})

test('nothing scored, nothing to be unsure of', () => {
  const blank = { ...plan, marks: [] }
  expect(courseError(blank, errorsOf(blank)).students[0]).toMatchObject({ se: 0, parts: [] })
})

test.each([
  ['multiplied, it is stretched', [{ method: { kind: 'multiply', by: 1.2 }, neverLower: false }], 1.2],
  ['moved, it stays', [{ method: { kind: 'add', by: 5 }, neverLower: false }], 1],
  [
    'one after the other, both stretch it',
    [
      { method: { kind: 'multiply', by: 1.2 }, neverLower: false },
      { method: { kind: 'line', from: [0, 50], to: [100, 100] }, neverLower: false },
    ],
    0.6,
  ],
  // 61.5 is the highest: it becomes 82, and everything else is moved by as much.
  ['brought to a top, it stays', [{ method: { kind: 'topTo', to: 82, scale: false }, neverLower: false }], 1],
  // Halved above 40 with never lower: the identity is above it all along.
  ['never lower leaves it', [{ method: { kind: 'multiply', by: 0.5 }, neverLower: true }], 1],
] as [string, NonNullable<Course['adjustments']>, number][])('where the course percent is rescaled: %s', (_, adjustments, times) => {
  const errors = { two: { error: 1 }, paper: { error: 4 } }
  const [plain, own] = [plan, { ...plan, adjustments }].map((c) => courseError(c, errors).students[0]!)
  expect(own!.se).toBeCloseTo(plain!.se * times, 9)
  own!.parts.forEach((p, i) => expect(p.weight).toBeCloseTo(plain!.parts[i]!.weight * times, 9))
})

test('a mark that is rescaled carries the error of its readings as far as it stretches them', () => {
  const errors = { one: { error: 1 }, two: { error: 1 }, paper: { error: 4, stretch: [1.5] } }
  expect(courseError(plan, errors).students[0]!.se).toBeCloseTo(Math.sqrt(3 ** 2 + 3 ** 2), 12)
})
