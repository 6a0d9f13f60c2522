import type { CourseResult, StudentResult } from '../grades/course'
import { chanceOfGrade, gradeCertainty } from './grade-certainty'

const BOUNDARIES = [
  { grade: 'Merit', from: 70 },
  { grade: 'Pass', from: 40 },
  { grade: 'Refer', from: 0 },
]
const student = (studentId: string, final: number | null, grade: string | null) =>
  ({ studentId, final, adjusted: final, grade }) as StudentResult
const result = (students: StudentResult[], rounding: CourseResult['rounding'] = null): CourseResult => ({
  students,
  boundaries: BOUNDARIES,
  rounding,
  conditions: [],
})

// Of the standard normal distribution: 0.5, 0.6915 and 0.8413 lie below 0, ½ and 1.
test.each([
  [70, 2, null, 0.5],
  [71, 2, null, 0.6915],
  [72, 2, null, 0.8413],
  [69, 2, null, 0.6915],
  // With whole percents 69.5 is the least that becomes 70.
  [69.5, 2, { decimals: 0 as const }, 0.5],
  [70.5, 2, { decimals: 0 as const }, 0.6915],
  [39, 2, null, 0.6915],
  [90, 0, null, 1],
])('%p with an error of %p, rounded %p, has its grade with a chance of %p', (percent, se, rounding, chance) => {
  expect(chanceOfGrade(percent, se, BOUNDARIES, rounding)).toBeCloseTo(chance, 4)
})

test('the chances of all grades make one, and half of those on a line are expected beyond it', () => {
  const { students, boundaries } = gradeCertainty(
    result([student('a', 70, 'Merit'), student('b', 68, 'Pass'), student('c', null, null)]),
    2,
  )
  expect(students).toEqual([
    { studentId: 'a', grade: 'Merit', chance: 0.5 },
    { studentId: 'b', grade: 'Pass', chance: expect.closeTo(0.8413, 4) as number },
  ])
  expect(boundaries).toEqual([
    { grade: 'Merit', from: 70, wrongSide: expect.closeTo(0.5 + 0.1587, 4) as number },
    { grade: 'Pass', from: 40, wrongSide: expect.closeTo(0, 4) as number },
  ])
})

test('an error for each leaves out who has none', () => {
  expect(gradeCertainty(result([student('a', 72, 'Merit'), student('b', 68, 'Pass')]), new Map([['a', 2]])).students).toHaveLength(1)
})
