import fc from 'fast-check'
import type { Course, MarkRow } from '../grades/course'
import { adjustmentEffect } from './adjustment-effect'
import { applyAdjustments, type Adjustment } from './adjustments'
import { AdjustmentError, type AdjustmentMethod } from './methods'
import { compareResults } from './compare-results'

const base: Adjustment = {
  id: 'x',
  assessmentId: 'a',
  outOf: 30,
  sectionIds: null,
  method: { kind: 'add', by: 2 },
  on: true,
  neverLower: false,
  above: 'keep within',
  step: null,
}
const marks = [4, 12.5, 29, null].map((mark, i) => ({ studentId: `p${i}`, assessmentId: 'a', sectionId: i === 0 ? 's' : 't', mark }))
const after = (patch: Partial<Adjustment>) => applyAdjustments(marks, [{ ...base, ...patch }]).map((m) => m.mark)

test.each<[string, Partial<Adjustment>, (number | null)[]]>([
  ['add keeps within', {}, [6, 14.5, 30, null]],
  ['add above when allowed', { above: 'allow' }, [6, 14.5, 31, null]],
  ['multiply, exactly', { method: { kind: 'multiply', by: 1.1 }, above: 'allow' }, [4.4, 13.75, 31.9, null]],
  ['top to', { method: { kind: 'topTo', to: 30 } }, [5, 13.5, 30, null]],
  ['a two-point line', { method: { kind: 'line', from: [0, 6], to: [30, 30] } }, [9.2, 16, 29.2, null]],
  [
    'pulled points',
    {
      method: {
        kind: 'curve',
        points: [
          [0, 0],
          [10, 16],
          [30, 30],
        ],
      },
    },
    [6.4, 17.75, 29.3, null],
  ],
  [
    'rounded half up to a step',
    {
      method: {
        kind: 'curve',
        points: [
          [0, 0],
          [10, 16],
          [30, 30],
        ],
      },
      step: 0.5,
    },
    [6.5, 18, 29.5, null],
  ],
  ['never lower', { method: { kind: 'add', by: -3 }, neverLower: true }, [4, 12.5, 29, null]],
  ['not below 0', { method: { kind: 'add', by: -5 } }, [0, 7.5, 24, null]],
  ['one section only', { sectionIds: ['s'] }, [6, 12.5, 29, null]],
  ['switched off', { on: false }, [4, 12.5, 29, null]],
  ['another assessment', { assessmentId: 'b' }, [4, 12.5, 29, null]],
])('%s', (_, patch, want) => {
  expect(after(patch)).toEqual(want)
})

test('a stack runs in its order, and the original stays beside every step', () => {
  const [first] = applyAdjustments(marks, [base, { ...base, id: 'y', method: { kind: 'multiply', by: 2 } }])
  expect(first).toMatchObject({
    plain: 4,
    mark: 12,
    steps: [
      { adjustmentId: 'x', mark: 6 },
      { adjustmentId: 'y', mark: 12 },
    ],
  })
})

test('a deduction that was below 0 is not lifted by keeping within', () => {
  expect(applyAdjustments([{ ...marks[0]!, mark: -2 }], [{ ...base, method: { kind: 'multiply', by: 1 } }])[0]!.mark).toBe(-2)
})

test.each<[AdjustmentMethod, RegExp]>([
  [{ kind: 'line', from: [5, 1], to: [5, 9] }, /different marks/],
  [{ kind: 'line', from: [0, 9], to: [30, 3] }, /falls/],
  [{ kind: 'curve', points: [[0, 0]] }, /two points/],
  [
    {
      kind: 'curve',
      points: [
        [0, 0],
        [0, 5],
      ],
    },
    /not above point 1/,
  ],
  [
    {
      kind: 'curve',
      points: [
        [0, 6],
        [5, 5],
      ],
    },
    /lower one/,
  ],
  [{ kind: 'add', by: NaN }, /number in every field/],
])('%j is refused', (method, words) => {
  expect(() => after({ method })).toThrow(AdjustmentError)
  expect(() => after({ method })).toThrow(words)
})

test('a rising curve never reverses two marks', () => {
  const ys = fc
    .array(
      fc.integer({ min: 0, max: 60 }).map((n) => n / 2),
      { minLength: 2, maxLength: 6 },
    )
    .map((list) => [...list].sort((a, b) => a - b))
  fc.assert(
    fc.property(
      ys,
      fc.array(
        fc.integer({ min: 0, max: 60 }).map((n) => n / 2),
        { minLength: 2, maxLength: 12 },
      ),
      (y, list) => {
        const points = y.map((v, i) => [(30 * i) / (y.length - 1), v] as [number, number])
        const rows = [...list].sort((a, b) => a - b).map((mark, i) => ({ studentId: String(i), assessmentId: 'a', sectionId: 's', mark }))
        const out = applyAdjustments(rows, [{ ...base, method: { kind: 'curve', points } }]).map((m) => m.mark!)
        expect(out).toEqual([...out].sort((a, b) => a - b))
      },
    ),
  )
})

const course: Omit<Course, 'marks'> = {
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: { decimals: 0 }, above100: 'cap' },
  components: [{ id: 'c', weight: 1, combine: 'byWorth', dropLowest: 0, bonus: false }],
  assessments: [{ id: 'a', componentId: 'c', outOf: 100, worth: 1, counts: true, bonus: false, droppable: true }],
  placements: ['s', 't'].map((sectionId) => ({ assessmentId: 'a', sectionId })),
  students: ['p', 'q', 'r'].map((id, i) => ({ id, sectionId: i < 2 ? 's' : 't' })),
  boundaries: [
    { grade: 'Pass', from: 50 },
    { grade: 'Refer', from: 0 },
  ],
}
const rows = (...list: number[]): MarkRow[] =>
  list.map((mark, i) => ({ studentId: 'pqr'[i]!, assessmentId: 'a', mark, status: 'in', daysLate: 0 }))

test('the effect says what changed, by section, and who overtook whom', () => {
  const effect = adjustmentEffect(course, rows(40, 49, 60), rows(52, 49, 45))
  expect(effect).toMatchObject({ marksChanged: 2, percents: 2, up: 1, down: 1, reversed: 3 })
  expect(effect.pairs).toContainEqual({ passes: 'p', passed: 'q' })
  expect(effect.sections).toMatchObject([
    { sectionId: 's', marksChanged: 1, meanBefore: 44.5, meanAfter: 50.5, up: 1, down: 0 },
    { sectionId: 't', marksChanged: 1, up: 0, down: 1 },
  ])
})

test('reversed pairs are those that counting all pairs finds', () => {
  const marksOf = fc.array(fc.integer({ min: 0, max: 12 }), { minLength: 6, maxLength: 6 })
  fc.assert(
    fc.property(marksOf, marksOf, (a, b) => {
      const students = [...'uvwxyz'].map((id) => ({ id, sectionId: 's' }))
      const result = (list: number[]) =>
        adjustmentEffect(
          { ...course, students },
          [],
          list.map((mark, i) => ({ studentId: students[i]!.id, assessmentId: 'a', mark, status: 'in', daysLate: 0 })),
        ).after
      let pairs = 0
      for (let i = 0; i < 6; i++) for (let j = 0; j < 6; j++) if (a[i]! < a[j]! && b[i]! > b[j]!) pairs++
      expect(compareResults(result(a), result(b)).reversed).toBe(pairs)
    }),
  )
})
