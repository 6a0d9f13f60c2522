import type { CourseResult } from '../grades/course'
import { boundaryImpact, gradeAt, nearBoundary, regrade } from './boundaries'

const adopted = [
  { grade: 'Merit', from: 70 },
  { grade: 'Pass', from: 50 },
  { grade: 'Refer', from: 0 },
]
const result: CourseResult = {
  boundaries: adopted,
  rounding: { decimals: 1 },
  conditions: [],
  students: [69.5, 70, 70.4, 49.9, null].map((rounded, i) => ({
    studentId: `p${i}`,
    soFar: rounded,
    lowest: rounded,
    highest: rounded,
    final: rounded,
    adjusted: rounded,
    rounded,
    grade: rounded === null ? null : rounded >= 70 ? 'Merit' : rounded >= 50 ? 'Pass' : 'Refer',
    heldBy: [],
    unmet: [],
    pending: rounded === null ? 1 : 0,
  })),
}

test('a boundary belongs to its grade', () => {
  expect(regrade(result, adopted).students.map((s) => s.grade)).toEqual(['Pass', 'Merit', 'Merit', 'Refer', null])
  expect(gradeAt(69.95, adopted, { decimals: 1 })).toBe('Merit')
  expect(gradeAt(69.94, adopted, { decimals: 1 })).toBe('Pass')
  expect(gradeAt(69.99, adopted, null)).toBe('Pass')
})

test('moving one says who moves, from what to what, and where', () => {
  const to = adopted.map((b) => (b.grade === 'Merit' ? { ...b, from: 69.5 } : b.grade === 'Pass' ? { ...b, from: 49.95 } : b))
  const impact = boundaryImpact(result, adopted, to, new Map([['p0', 's']]))
  expect(impact).toMatchObject({ up: 1, down: 0, moves: [{ from: 'Pass', to: 'Merit', sectionId: 's', count: 1 }] })
})

test('near a line on either side, nearest first, both ends of the zone included, the lowest grade has none', () => {
  expect(nearBoundary(result, 0.5).map((n) => [n.studentId, n.grade, n.distance])).toEqual([
    ['p1', 'Merit', 0],
    ['p3', 'Pass', -0.1],
    ['p2', 'Merit', 0.4],
    ['p0', 'Merit', -0.5],
  ])
})
