import { applyChanges } from './changes'
import { readingQueue } from './open-items'
import { settleBy } from './settle-by'
import { workingsOf, type TableLike } from './course-table'
import { standingMarks, standingRows } from './standing-marks'
import type { Workings } from './workings'

/** One script of an assessment out of 20, with what was typed and what was read. */
function tableOf(entered: number | null, readings: number[], { wanted = 1, agreed = {} as TableLike['agreed'] } = {}): TableLike {
  return {
    policy: {
      missing: { kind: 'zero' },
      absent: { kind: 'pending' },
      late: { kind: 'none' },
      rounding: null,
      above100: 'allow',
    },
    components: [{ id: 'all', weight: 100, combine: 'byWorth', dropLowest: 0, bonus: false }],
    assessments: [
      {
        id: 'essay',
        componentId: 'all',
        outOf: 20,
        worth: 20,
        counts: true,
        bonus: false,
        droppable: true,
        readingsWanted: wanted,
        tolerance: 5,
      },
    ],
    placements: [{ assessmentId: 'essay', sectionId: 'east', due: null }],
    students: [{ id: 'ada', sectionId: 'east' }],
    markers: readings.map((_, i) => ({ id: `m${i}` })),
    boundaries: [{ grade: 'Pass', from: 0 }],
    stays: {},
    leftOut: {},
    scripts: { id: [], student: [0], assessment: [0], status: [0], daysLate: [0], entered: [entered] },
    readings: { script: readings.map(() => 0), marker: readings.map((_, i) => i), mark: readings },
    agreed,
    adjustments: [],
  }
}
const script = (...of: Parameters<typeof tableOf>): Workings => workingsOf(tableOf(...of))
const stands = (w: Workings) => standingRows(w).map((s) => [s.source, s.mark])

test('a typed mark never wins over a reading that says otherwise: no mark stands until a person says which', () => {
  expect(stands(script(14, []))).toEqual([['entered', 14]])
  expect(stands(script(14, [14]))).toEqual([['entered', 14]])
  const clash = script(14, [11])
  expect(stands(clash)).toEqual([['clash', null]])
  expect(readingQueue(clash, { essay: 5 }, standingMarks(clash))).toEqual({
    clash: [0],
    overTolerance: [],
    within: [],
    thin: [],
  })
  expect(stands(script(14, [11], { agreed: { 'essay:ada': 12 } }))).toEqual([['agreed', 12]])
})

test('nor does it stand for the readings that are wanted and differ', () => {
  expect(stands(script(14, [14, 11], { wanted: 2 }))).toEqual([['clash', null]])
  expect(stands(script(null, [14, 11], { wanted: 2 }))).toEqual([['open', null]])
})

test('a script opened again waits, whatever it would come to by itself, until it is settled anew', () => {
  const agreed = script(null, [14], { agreed: { 'essay:ada': 12 } })
  const reopened = applyChanges(agreed, [{ kind: 'reopen', scriptId: 'essay:ada' }])
  expect(stands(reopened)).toEqual([['open', null]])
  expect(readingQueue(reopened, { essay: 5 }, standingMarks(reopened)).within).toEqual([0])
  const anew = applyChanges(reopened, settleBy(reopened, [0], { kind: 'mean' }, null))
  expect(stands(anew)).toEqual([['agreed', 14]])
  expect(readingQueue(anew, { essay: 5 }, standingMarks(anew)).within).toEqual([])
})

test('who is left out of an assessment has no mark in it, and moves nobody else’s', () => {
  const one = tableOf(14, [])
  const pair: TableLike = {
    ...one,
    students: [...one.students, { id: 'bo', sectionId: 'east' }],
    scripts: { id: [], student: [0, 1], assessment: [0, 0], status: [0, 0], daysLate: [0, 0], entered: [14, 18] },
    adjustments: [
      {
        id: 'top',
        assessmentId: 'essay',
        outOf: 20,
        sectionIds: null,
        method: { kind: 'topTo', to: 20 },
        on: true,
        neverLower: false,
        above: 'keep within',
        step: null,
      },
    ],
  }
  const out = workingsOf({ ...pair, leftOut: { essay: ['bo'] } })
  expect(stands(workingsOf(pair))).toEqual([
    ['entered', 16],
    ['entered', 20],
  ])
  // Ada’s 14 is the highest once Bo’s 18 is not among them.
  expect(stands(out)).toEqual([
    ['entered', 20],
    ['none', null],
  ])
})
