import fc from 'fast-check'
import type { AdjustmentMethod } from '../rescale/methods'
import type { Adjustment } from '../rescale/adjustments'
import { told } from '../testing/told'
import { addChanges, applyChanges, type Change } from './changes'
import { gradeStanding } from './grade-workings'
import { workingsOf, type TableLike } from './course-table'
import { standingRescaled } from './rescaled-marks'
import { standingMarks, standingRows } from './standing-marks'

/** Essays read twice and agreed, out of 20; a paper typed in, out of 40. Cy moved from west to east after the paper was sat. */
const TABLE: TableLike = {
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: null, above100: 'allow' },
  components: [{ id: 'all', weight: 100, combine: 'byWorth', dropLowest: 0, bonus: false }],
  assessments: (
    [
      ['essay', 20, 2],
      ['paper', 40, 1],
    ] as const
  ).map(([id, outOf, readingsWanted]) => ({
    id,
    componentId: 'all',
    outOf,
    worth: outOf,
    counts: true,
    bonus: false,
    droppable: true,
    readingsWanted,
    tolerance: 4,
  })),
  placements: ['essay', 'paper'].flatMap((assessmentId) =>
    ['east', 'west'].map((sectionId) => ({ assessmentId, sectionId, due: assessmentId === 'paper' ? '2026-10-01' : '2026-11-20' })),
  ),
  students: [
    ['ada', 'east'],
    ['bo', 'east'],
    ['cy', 'east'],
    ['di', 'west'],
  ].map(([id, sectionId]) => ({ id: id!, sectionId: sectionId! })),
  markers: [{ id: 'mo' }, { id: 'ny' }],
  boundaries: [{ grade: 'Pass', from: 0 }],
  stays: {
    cy: [
      { sectionId: 'west', from: '2026-09-07', to: '2026-10-31' },
      { sectionId: 'east', from: '2026-11-01', to: null },
    ],
  },
  leftOut: {},
  scripts: {
    id: [],
    student: [0, 1, 2, 3, 0, 1, 2, 3],
    assessment: [0, 0, 0, 0, 1, 1, 1, 1],
    status: Array(8).fill(0),
    daysLate: Array(8).fill(0),
    entered: [null, null, null, null, 30, 20, 10, 40],
  },
  readings: { script: [0, 0, 1, 1, 2, 2, 3, 3], marker: [0, 1, 0, 1, 0, 1, 0, 1], mark: [12, 16, 10, 13, 8, 12, 19, 20] },
  agreed: { 'essay:ada': 14, 'essay:bo': 13, 'essay:cy': 9, 'essay:di': 19.5 },
  // Ada's and Di's by their mean, Bo's the highest; Cy's is the lead's own.
  agreedBy: { mean: ['essay:ada', 'essay:di'], highest: ['essay:bo'] },
  adjustments: [],
}
const w = workingsOf(TABLE)
const adjustment = (method: AdjustmentMethod, more: Partial<Adjustment> = {}): Adjustment => ({
  id: 'x',
  assessmentId: 'essay',
  outOf: 20,
  sectionIds: null,
  method,
  on: true,
  neverLower: false,
  above: 'keep within',
  step: null,
  ...more,
})
const marksOf = (assessmentId: string, ...adjustments: Adjustment[]) => {
  const tried = applyChanges(
    w,
    adjustments.map((adjustment): Change => ({ kind: 'adjust', adjustment })),
  )
  return standingRows(tried)
    .filter((s) => s.assessmentId === assessmentId)
    .map((s) => s.mark)
}
const lean = (effect: number, factor = 1) => adjustment({ kind: 'markerEffect', markerId: 'ny', effect, factor })

test('a lean is taken out of readings before they are agreed by their rule; a person’s own mark stays', () => {
  // 16, 13, 12, 20 of ny become 14, 11, –, 18.
  expect(marksOf('essay', lean(2))).toEqual([13, 11, 9, 18.5])
  expect(marksOf('essay', lean(2, 0.5))).toEqual([13.5, 12, 9, 19])
})

test('readings are kept within the range before they are agreed', () => {
  expect(marksOf('essay', lean(-2))).toEqual([15, 15, 9, 19.5])
  expect(marksOf('essay', { ...lean(-2), above: 'allow' })).toEqual([15, 15, 9, 20.5])
  expect(marksOf('essay', { ...lean(2), neverLower: true })).toEqual([14, 13, 9, 19.5])
})

test('a criterion left out gives each reading another mark, and what was agreed criterion by criterion too; a lean comes off that', () => {
  const without = adjustment({
    kind: 'without',
    criterionIds: ['k'],
    scriptIds: ['essay:ada', 'essay:ada', 'essay:cy'],
    markerIds: ['mo', 'ny', null],
    marks: [14, 20, 11],
  })
  expect(marksOf('essay', without)).toEqual([17, 13, 11, 19.5])
  // Whatever their places in the stack, readings are counted otherwise before a lean is taken off.
  expect(marksOf('essay', { ...lean(2), id: 'y' }, without)).toEqual([16, 11, 11, 18.5])
})

test('what acts on marks comes after what acts on readings, whatever its place', () => {
  const up = adjustment({ kind: 'add', by: 1 }, { id: 'up' })
  expect(marksOf('essay', up, lean(2))).toEqual([14, 12, 10, 19.5])
  const tried = applyChanges(
    w,
    [up, lean(2)].map((adjustment): Change => ({ kind: 'adjust', adjustment })),
  )
  expect(standingRows(tried)[0]).toMatchObject({
    plain: 14,
    steps: [
      { adjustmentId: 'x', mark: 13 },
      { adjustmentId: 'up', mark: 14 },
    ],
  })
})

test('for a section means those who were in it on the day', () => {
  const west = adjustment({ kind: 'add', by: 2 }, { assessmentId: 'paper', outOf: 40, sectionIds: ['west'] })
  expect(marksOf('paper', west)).toEqual([30, 20, 12, 40])
  expect(marksOf('essay', { ...west, assessmentId: 'essay', outOf: 20 })).toEqual([14, 13, 9, 20])
})

test('brought to another maximum, what comes before it is kept within the one that marks came from', () => {
  const up = adjustment({ kind: 'add', by: 30 }, { assessmentId: 'paper', outOf: 40, id: 'up' })
  const scale = adjustment({ kind: 'anotherMaximum', from: 50, to: 40 }, { assessmentId: 'paper', outOf: 40, id: 'scale' })
  // 60, 50, 40 and 70 are kept within 50, then brought to 40.
  expect(marksOf('paper', up, scale)).toEqual([40, 40, 32, 40])
})

test('in another order the same adjustments give other marks, and taken back they stand as they did', () => {
  const base = applyChanges(w, [
    { kind: 'adjust', adjustment: adjustment({ kind: 'multiply', by: 0.5 }, { assessmentId: 'paper', outOf: 40, id: 'half' }) },
    { kind: 'adjust', adjustment: adjustment({ kind: 'add', by: 4 }, { assessmentId: 'paper', outOf: 40, id: 'up' }) },
  ])
  const first = (x: typeof w) => standingRows(x).find((s) => s.assessmentId === 'paper')!.mark
  expect(first(base)).toBe(19)
  expect(first(applyChanges(base, [{ kind: 'order', assessmentId: 'paper', adjustmentIds: ['up', 'half'] }]))).toBe(17)
  expect(first(applyChanges(base, [{ kind: 'order', assessmentId: 'paper', adjustmentIds: ['half'] }]))).toBe(19)
})

const methods: fc.Arbitrary<AdjustmentMethod> = fc.oneof(
  fc.record({ kind: fc.constant('add' as const), by: fc.constantFrom(-3, 1.5, 4) }),
  fc.record({ kind: fc.constant('topTo' as const), to: fc.constantFrom(18, 20) }),
  fc.record({
    kind: fc.constant('markerEffect' as const),
    markerId: fc.constantFrom('mo', 'ny'),
    effect: fc.constantFrom(-1.5, 2),
    factor: fc.constantFrom(0.5, 1),
  }),
  fc.constant({ kind: 'matchMeanSd' as const, from: { mean: 13, sd: 4 }, to: { mean: 12, sd: 3 }, like: { group: 'typed' as const } }),
)
const changes: fc.Arbitrary<Change[]> = fc.array(
  fc.oneof(
    fc
      .tuple(methods, fc.constantFrom('p', 'q', 'r'), fc.constantFrom('essay', 'paper'), fc.boolean())
      .map(([method, id, assessmentId, all]): Change => ({
        kind: 'adjust',
        adjustment: adjustment(method, {
          id: `${id}-${assessmentId}`,
          assessmentId,
          outOf: assessmentId === 'essay' ? 20 : 40,
          sectionIds: all ? null : ['east'],
        }),
      })),
    fc
      .tuple(fc.constantFrom('p-essay', 'q-paper'), fc.boolean())
      .map(([adjustmentId, on]): Change => ({ kind: 'switch', adjustmentId, on })),
    fc.constant<Change>({ kind: 'order', assessmentId: 'essay', adjustmentIds: ['r-essay', 'q-essay', 'p-essay'] }),
  ),
  { maxLength: 5 },
)

test('whatever is changed in a stack, what is worked out of the change alone is what stands', () =>
  fc.assert(
    fc.property(changes, changes, (before, after) => {
      const from = applyChanges(w, addChanges([], before))
      const to = applyChanges(w, addChanges(before, after))
      const whole = standingMarks(to)
      const { standing, cells } = standingRescaled(standingMarks(from), from, to)
      expect(told(standing)).toEqual(told(whole))
      const was = standingMarks(from).mark
      expect(cells.toSorted((a, b) => a - b)).toEqual([...whole.mark.keys()].filter((c) => !Object.is(was[c], whole.mark[c])))
      expect(gradeStanding(to, standing).columns.table.final).toEqual(gradeStanding(to, whole).columns.table.final)
    }),
  ))
