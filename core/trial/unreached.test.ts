import { againBy, ruleAgain, type AgreeRule } from '../agree'
import type { AdjustmentMethod } from '../rescale/methods'
import type { Adjustment } from '../rescale/adjustments'
import { workingsOf, planFacts, type TableLike } from './course-table'
import { openItems } from './open-items'
import { standingRows } from './standing-marks'
import { unreachedBy } from './unreached'

const LEVELLED: AgreeRule = { kind: 'levelled', leans: { mo: -1, ny: 1 }, outOf: 20 }
const IDS = ['ada', 'bo', 'cy', 'di']

/** Essays read twice: Ada's levelled, Bo's by the mean, Cy's the lead's own; Di's typed in. */
const table = (more: Partial<TableLike> = {}): TableLike => ({
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: null, above100: 'allow' },
  components: [{ id: 'all', weight: 100, combine: 'byWorth', dropLowest: 0, bonus: false }],
  assessments: [
    { id: 'essay', componentId: 'all', outOf: 20, worth: 20, counts: true, bonus: false, droppable: true, readingsWanted: 2, tolerance: 2 },
  ],
  placements: [{ assessmentId: 'essay', sectionId: 'east', due: null }],
  students: IDS.map((id) => ({ id, sectionId: 'east' })),
  markers: [{ id: 'mo' }, { id: 'ny' }],
  boundaries: [{ grade: 'Pass', from: 0 }],
  stays: {},
  leftOut: {},
  scripts: {
    id: [],
    student: [0, 1, 2, 3],
    assessment: [0, 0, 0, 0],
    status: [0, 0, 0, 0],
    daysLate: [0, 0, 0, 0],
    entered: [null, null, null, 12],
  },
  readings: { script: [0, 0, 1, 1, 2, 2], marker: [0, 1, 0, 1, 0, 1], mark: [12, 16, 10, 12, 8, 14] },
  agreed: { 'essay:ada': 14, 'essay:bo': 11, 'essay:cy': 9 },
  agreedBy: { [againBy(LEVELLED)!]: ['essay:ada'], mean: ['essay:bo'] },
  adjustments: [],
  ...more,
})
const adjustment = (method: AdjustmentMethod): Adjustment => ({
  id: 'one',
  assessmentId: 'essay',
  outOf: 20,
  sectionIds: null,
  method,
  on: true,
  neverLower: false,
  above: 'keep within',
  step: null,
})
const WITHOUT = adjustment({
  kind: 'without',
  criterionIds: ['k'],
  scriptIds: ['essay:ada', 'essay:ada', 'essay:bo', 'essay:bo', 'essay:cy', 'essay:cy'],
  markerIds: ['mo', 'ny', 'mo', 'ny', 'mo', 'ny'],
  marks: [16, 18, 10, 12, 8, 14],
})
const LEAN = adjustment({ kind: 'markerEffect', markerId: 'mo', effect: -1, factor: 1 })
const marks = (adjustments: Adjustment[]) => standingRows(workingsOf(table({ adjustments }))).map((s) => s.mark)
const unreached = (a: Adjustment) => {
  const w = workingsOf(table({ adjustments: [a] }))
  return unreachedBy(w, a).map((cell) => w.cells.studentId(cell))
}

test('a levelled rule is kept as it travels, leans and all', () => {
  expect(ruleAgain(againBy(LEVELLED)!)).toEqual(LEVELLED)
  expect(ruleAgain('levelled nonsense')).toBeUndefined()
})

test('a levelled script follows where a criterion is left out: its readings as they then are, without the leans', () => {
  // (16 + 1 + 18 − 1) / 2.
  expect(marks([WITHOUT])).toEqual([17, 11, 9, 12])
})

test('a lean is not taken off twice: what was levelled is without it already', () => {
  // Bo's readings are 11 and 12 with Mo's lean out.
  expect(marks([LEAN])).toEqual([14, 11.5, 9, 12])
})

test('what an adjustment of readings does not reach is named: marks of somebody’s own, typed ones, and levelled ones by a lean', () => {
  expect(unreached(WITHOUT)).toEqual(['cy', 'di'])
  // Di's typed mark is no reading of Mo's.
  expect(unreached(LEAN)).toEqual(['ada', 'cy'])
  expect(unreached(adjustment({ kind: 'markerEffect', markerId: 'nobody', effect: 1, factor: 1 }))).toEqual([])
  expect(unreached(adjustment({ kind: 'add', by: 2 }))).toEqual([])
  expect(unreached({ ...WITHOUT, on: false })).toEqual([])
  expect(unreached({ ...WITHOUT, sectionIds: ['west'] })).toEqual([])
})

const open = (more: Partial<TableLike>) => {
  const t = table(more)
  return openItems(workingsOf(t), planFacts(t)).map((i) => [i.kind, i.count, i.blocking])
}

test('what is not reached is open before it is confirmed, and holds nothing up', () => {
  expect(open({ adjustments: [WITHOUT] })).toEqual([['unreached', 2, false]])
  expect(open({})).toEqual([])
})

test('a typed mark that its readings bear out is not open; nor is anything of an assessment that does not count', () => {
  const typed = { readings: { script: [3, 3], marker: [0, 1], mark: [12, 12] }, agreed: {}, agreedBy: {} }
  const kinds = (more: Partial<TableLike>) => open(more).map(([kind]) => kind)
  expect(kinds(typed)).toEqual(['unmarked'])
  const apart = { readings: { script: [0, 0], marker: [0, 1], mark: [2, 18] }, agreed: {}, agreedBy: {} }
  expect(kinds(apart)).toEqual(['unmarked', 'spread'])
  expect(kinds({ ...apart, assessments: [{ ...table().assessments[0]!, counts: false }] })).toEqual([])
})
