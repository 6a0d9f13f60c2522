import { regrade } from '../bounds'
import type { Condition, Course } from './course'
import { explainGrade } from './explain-grade'
import { gradeCourse } from './grade-course'

const course = (conditions: Condition[], marks: [paper: number | null, essay: number] = [35, 95]): Course => ({
  policy: {
    missing: { kind: 'zero' },
    absent: { kind: 'exempt' },
    late: { kind: 'perDay', percent: 10, maxDays: null },
    rounding: { decimals: 1 },
    above100: 'cap',
  },
  components: [
    { id: 'written', weight: 50, combine: 'byWorth', dropLowest: 0, bonus: false },
    { id: 'work', weight: 50, combine: 'byWorth', dropLowest: 0, bonus: false },
  ],
  assessments: [
    { id: 'paper', componentId: 'written', outOf: 100, worth: 10, counts: true, bonus: false, droppable: true },
    { id: 'essay', componentId: 'work', outOf: 100, worth: 10, counts: true, bonus: false, droppable: true },
  ],
  placements: ['paper', 'essay'].map((assessmentId) => ({ assessmentId, sectionId: 's' })),
  students: [{ id: 'p', sectionId: 's' }],
  marks: [
    { studentId: 'p', assessmentId: 'paper', mark: marks[0], status: marks[0] === null ? 'absent' : 'in', daysLate: 0 },
    { studentId: 'p', assessmentId: 'essay', mark: marks[1], status: 'in', daysLate: 0 },
  ],
  boundaries: [
    { grade: 'Merit', from: 60 },
    { grade: 'Credit', from: 50 },
    { grade: 'Pass', from: 40 },
    { grade: 'Refer', from: 0 },
  ],
  conditions,
})
const WRITTEN: Condition = { componentId: 'written', least: 40, atMost: 'Pass' }

test('who has the percent but not what is asked gets at most the grade named, and the strictest wins', () => {
  const [s] = gradeCourse(course([{ assessmentId: 'paper', least: 36, atMost: 'Credit' }, WRITTEN])).students
  expect(s).toMatchObject({ rounded: 65, grade: 'Pass', heldBy: [0, 1], unmet: [0, 1] })
})

test('one that leaves the grade as it is, is unmet and holds nothing', () => {
  const [s] = gradeCourse(course([{ ...WRITTEN, atMost: 'Merit' }])).students
  expect(s).toMatchObject({ grade: 'Merit', heldBy: [], unmet: [0] })
})

test('what does not apply asks nothing', () => {
  const [s] = gradeCourse(course([WRITTEN, { assessmentId: 'paper', least: 40, atMost: 'Pass' }], [null, 95])).students
  expect(s).toMatchObject({ grade: 'Merit', heldBy: [], unmet: [] })
})

test('exactly what is asked is enough', () => {
  expect(gradeCourse(course([WRITTEN], [40, 95])).students[0]!.grade).toBe('Merit')
})

test('under other limits what is unmet holds again', () => {
  const graded = gradeCourse(course([{ ...WRITTEN, atMost: 'Credit' }]))
  const limits = graded.boundaries.map((b) => (b.grade === 'Merit' ? { ...b, from: 66 } : b))
  expect(graded.students[0]).toMatchObject({ grade: 'Credit', heldBy: [0] })
  expect(regrade(graded, limits).students[0]).toMatchObject({ grade: 'Credit', heldBy: [] })
})

test('the chain says what is asked, what there is and what it comes to', () => {
  const { steps } = explainGrade(course([WRITTEN]), 'p', { written: 'Written' })
  expect(steps.slice(-3).map((s) => s.text)).toEqual([
    'Grade: Merit, which begins at 60',
    'Written asks for 40%, and there are 35%: at most Pass',
    'Grade: Pass, held by what is asked',
  ])
})

test('decimals are written with a comma for readers who use one', () => {
  const { steps } = explainGrade(course([{ ...WRITTEN, least: 40.5 }]), 'p', { written: 'Written' }, 'comma')
  expect(steps.at(-2)!.text).toBe('Written asks for 40,5%, and there are 35%: at most Pass')
})

test.each([
  [{ componentId: 'x', least: 1, atMost: 'Pass' }, 'conditions[0].componentId'],
  [{ assessmentId: 'x', least: 1, atMost: 'Pass' }, 'conditions[0].assessmentId'],
  [{ ...WRITTEN, atMost: 'Gold' }, 'conditions[0].atMost'],
  [{ ...WRITTEN, least: NaN }, 'conditions[0].least'],
])('one that fits nothing is refused with its place', (condition, path) => {
  expect(() => gradeCourse(course([condition]))).toThrow(expect.objectContaining({ path }))
})
