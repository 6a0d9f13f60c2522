import type { CourseErrors } from '../grades/course-error'
import type { CourseResult, StudentResult } from '../grades/course'
import { rightGrade, worthReading } from './worth-reading'

const BOUNDARIES = [
  { grade: 'Merit', from: 70 },
  { grade: 'Pass', from: 40 },
  { grade: 'Refer', from: 0 },
]
const result = (percents: Record<string, number | null>, rounding: CourseResult['rounding'] = null): CourseResult => ({
  students: Object.entries(percents).map(([studentId, final]) => ({ studentId, final, adjusted: final }) as StudentResult),
  boundaries: BOUNDARIES,
  rounding,
  conditions: [],
})
const part = (assessmentId: string, weight: number, readings = 1) => ({ assessmentId, weight, error: 2, readings })
const errorsOf = (percents: Record<string, unknown>, parts: ReturnType<typeof part>[]): CourseErrors => ({
  unknown: [],
  students: Object.keys(percents).map((studentId) => ({
    studentId,
    se: Math.sqrt(parts.reduce((s, p) => s + (p.weight * p.error) ** 2 / p.readings, 0)),
    parts,
  })),
})

// Two standard normals with correlation ρ have one sign with a chance of ½ + asin(ρ)/π (Sheppard 1899).
test.each([2 / 3, 1 / 2, 3 / 4, 0.99])(
  'on a line, a reading that leaves %p of the variance makes the grade as sure as two signs that agree',
  (left) => {
    const v = 4
    expect(rightGrade(70, v, left * v, [70, 40, 0])).toBeCloseTo(0.5 + Math.asin(Math.sqrt(1 - left)) / Math.PI, 8)
  },
)

test('the chance of the wrong grade on a line falls from 50% to 30% where a third of the variance goes', () => {
  expect(1 - rightGrade(70, 4, 8 / 3, [70, 40, 0])).toBeCloseTo(0.304, 3)
})

// Judge: the two normals drawn on a fine grid, each point in the grade of what would then stand and of what is true.
test.each([
  [70.9, 4, 2.5],
  [55, 60, 30],
  [41, 90, 45],
  [69.2, 1, 0.5],
])('%p with a variance of %p, %p of it left: as on a fine grid of both', (c, v, left) => {
  const limits = [70, 55, 40, 0]
  const gradeOf = (x: number) => limits.findIndex((l, i) => x >= l || i === limits.length - 1)
  const [s, rest] = [Math.sqrt(v - left), Math.sqrt(left)]
  const N = 1000
  const normal = (z: number) => Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI)
  let both = 0
  for (let i = 0; i < N; i++) {
    const z = -8 + (16 * (i + 0.5)) / N
    const then = c + s * z
    for (let j = 0; j < N; j++) {
      const u = -8 + (16 * (j + 0.5)) / N
      if (gradeOf(then) === gradeOf(then + rest * u)) both += normal(z) * normal(u)
    }
  }
  expect(rightGrade(c, v, left, limits)).toBeCloseTo(both * (16 / N) ** 2, 3)
})

test('a reading that tells nothing leaves the chance of the grade as it stands, and one that tells all makes it sure', () => {
  expect(rightGrade(71, 4, 4, [70, 40, 0])).toBeCloseTo(0.691462461274013, 8)
  expect(rightGrade(71, 4, 0, [70, 40, 0])).toBeCloseTo(1, 8)
})

test('most is gained on the line itself, more where the mark carries more, and nothing far from any line', () => {
  const percents = { off: 72, line: 70, far: 55, none: null }
  const all = worthReading(result(percents), errorsOf(percents, [part('essay', 1), part('quiz', 0.25)]), 3, () => 1)
  expect(all.map((w) => [w.studentId, w.assessmentId])).toEqual([
    ['line', 'essay'],
    ['off', 'essay'],
    ['line', 'quiz'],
  ])
  expect(all[0]).toMatchObject({ readings: 1, chance: 0.5 })
  for (const w of all) expect(w.gain).toBeCloseTo(w.chanceAfter - w.chance, 12)
})

test('with rounding the line lies where percents begin to round up', () => {
  const percents = { line: 69.5 }
  const [one] = worthReading(result(percents, { decimals: 0 }), errorsOf(percents, [part('essay', 1)]), 1)
  expect(one!.chance).toBeCloseTo(0.5, 12)
  expect(one!.chanceAfter).toBeCloseTo(0.75, 8) // half the variance left: ½ + asin(√½)/π
})

test('two readings of one script are among the best where one script carries all, each gain on top of the one before', () => {
  const percents = { line: 70, far: 30 }
  const errors = errorsOf(percents, [part('essay', 1)])
  const both = worthReading(result(percents), errors, 2)
  expect(both.map((w) => [w.studentId, w.readings])).toEqual([
    ['line', 1],
    ['line', 2],
  ])
  expect(both[1]!.chance).toBe(both[0]!.chanceAfter)
  expect(both[1]!.chanceAfter).toBeCloseTo(0.5 + Math.asin(Math.sqrt(2 / 3)) / Math.PI, 8)
  expect(worthReading(result(percents), errors, 5, () => 1)).toHaveLength(1)
  expect(worthReading(result(percents), errors, 5, () => 0)).toEqual([])
})
