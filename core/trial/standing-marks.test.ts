import { readingQueue } from './open-items'
import { standingMarks, type Workings } from './workings'

/** One script of an assessment out of 20, with what was typed and what was read. */
function script(entered: number | null, readings: number[], more: Partial<Workings> = {}): Workings {
  return {
    course: {
      policy: {
        missing: { kind: 'zero' },
        absent: { kind: 'pending' },
        late: { kind: 'none' },
        rounding: null,
        above100: 'allow',
      },
      components: [{ id: 'all', weight: 100, combine: 'byWorth', dropLowest: 0, bonus: false }],
      assessments: [{ id: 'essay', componentId: 'all', outOf: 20, worth: 20, counts: true, bonus: false, droppable: true }],
      placements: [{ assessmentId: 'essay', sectionId: 'east', due: null }],
      students: [{ id: 'ada', sectionId: 'east' }],
      boundaries: [{ grade: 'Pass', from: 0 }],
    },
    stays: {},
    leftOut: {},
    scripts: [{ id: 'essay:ada', studentId: 'ada', assessmentId: 'essay', status: 'in', daysLate: 0, entered }],
    readings: readings.map((mark, i) => ({ scriptId: 'essay:ada', markerId: `m${i}`, mark })),
    agreed: {},
    adjustments: [],
    readingsWanted: { essay: 1 },
    ...more,
  }
}
const stands = (w: Workings) => standingMarks(w).map((s) => [s.source, s.mark])

test('a typed mark never wins over a reading that says otherwise: no mark stands until a person says which', () => {
  expect(stands(script(14, []))).toEqual([['entered', 14]])
  expect(stands(script(14, [14]))).toEqual([['entered', 14]])
  const clash = script(14, [11])
  expect(stands(clash)).toEqual([['clash', null]])
  expect(readingQueue(clash, { essay: 5 }, standingMarks(clash))).toEqual({
    clash: ['essay:ada'],
    overTolerance: [],
    within: [],
    thin: [],
  })
  expect(stands({ ...clash, agreed: { 'essay:ada': 12 } })).toEqual([['agreed', 12]])
})

test('nor does it stand for the readings that are wanted and differ', () => {
  expect(stands(script(14, [14, 11], { readingsWanted: { essay: 2 } }))).toEqual([['clash', null]])
  expect(stands(script(null, [14, 11], { readingsWanted: { essay: 2 } }))).toEqual([['open', null]])
})
