import type { Boundary, Condition } from './course'
import { checkNewBoundaries } from './renamed-grades'

const was: Boundary[] = [
  { grade: 'Merit', from: 60 },
  { grade: 'Pass', from: 40 },
  { grade: 'Refer', from: 0 },
]
const conditions: Condition[] = [{ componentId: 'book', least: 40, atMost: 'Pass' }]
const wrong = (next: Boundary[]) =>
  checkNewBoundaries(next, { boundaries: was, conditions, policy: { above100: 'cap' } }).map((f) => [f.row, f.kind, f.message])

test('a set without the grade that a condition names is no set yet, and says what to do first; a renamed grade takes it along', () => {
  expect(wrong([was[0]!, was[2]!])).toEqual([
    [
      null,
      'condition',
      'A condition gives at most Pass, a grade that would be gone: change or remove the condition first (Bound, conditions).',
    ],
  ])
  expect(wrong(was.map((b) => (b.grade === 'Pass' ? { ...b, grade: 'Sound' } : b)))).toEqual([])
  expect(wrong([{ grade: 'Distinction', from: 80 }, ...was])).toEqual([])
  expect(wrong([was[0]!, { grade: 'Pass', from: 70 }, was[2]!]).map(([, kind]) => kind)).toEqual(['order'])
})
