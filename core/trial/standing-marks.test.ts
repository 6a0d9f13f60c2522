import { readingQueue } from './open-items'
import { workingsOf, type TableLike } from './course-table'
import { standingMarks, standingRows } from './standing-marks'
import type { Workings } from './workings'

/** One script of an assessment out of 20, with what was typed and what was read. */
function script(entered: number | null, readings: number[], { wanted = 1, agreed = {} as TableLike['agreed'] } = {}): Workings {
  return workingsOf({
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
  })
}
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
