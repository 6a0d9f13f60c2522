import { STATUSES } from '../grades/course'
import { ifSaved } from './if-saved'
import { workingsOf, type TableLike } from './course-table'

const STUDENTS = ['x', 'y'].map((id) => ({ id, sectionId: 's' }))
const ASSESSMENTS = ['a', 'b'].map((id) => ({ id, componentId: 'c', outOf: 20, worth: null, readingsWanted: 1, tolerance: 1 }))
/** One who has a reading of the first, was settled in the second, and one of whom nothing is written. */
const workings = workingsOf({
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: null, above100: 'cap' },
  boundaries: [{ grade: 'All', from: 0 }],
  students: STUDENTS,
  markers: [{ id: 'm' }],
  components: [{ id: 'c', weight: 100, combine: 'byWorth', dropLowest: 0, bonus: false }],
  assessments: ASSESSMENTS,
  placements: ASSESSMENTS.map((a) => ({ assessmentId: a.id, sectionId: 's', due: null })),
  stays: {},
  leftOut: {},
  scripts: { id: {}, student: [0, 0], assessment: [0, 1], status: [0, 0], daysLate: [0, 0], entered: [null, null] },
  readings: { script: [0], marker: [0], mark: [12] },
  agreed: { 'b:x': 11 },
  adjustments: [],
} as unknown as TableLike)
const typed = (studentId: string, assessmentId: string, more = {}) => ({
  studentId,
  assessmentId,
  status: STATUSES[0],
  daysLate: 0,
  mark: 7,
  ...more,
})

test.each([
  [{}, { status: 'in', daysLate: 0, entered: 7 }],
  [
    { status: 'late', daysLate: 2 },
    { status: 'late', daysLate: 2, entered: 7 },
  ],
  [{ status: 'held' }, { status: 'held', daysLate: 0, entered: 7 }],
  // Work that never came has no mark, whatever was typed before.
  [{ status: 'missing' }, { status: 'missing', daysLate: 0, entered: null }],
  [{ mark: null }, { status: 'in', daysLate: 0, entered: null }],
])('a script without readings is what was typed: %j', (more, left) => {
  expect(ifSaved(workings, [typed('y', 'a', more)])).toEqual([
    { studentId: 'y', assessmentId: 'a', ...left, readings: [], agreed: null, agreedBy: null, reopened: false },
  ])
})

test.each([
  ['a reading decides', typed('x', 'a')],
  ['it was settled', typed('x', 'b')],
  ['nobody is there', typed('z', 'a')],
  ['nothing is set', typed('y', 'z')],
])('where %s, what is typed does not decide, nor what is typed with it', (_, mark) => {
  expect(ifSaved(workings, [mark])).toBeNull()
  expect(ifSaved(workings, [typed('y', 'a'), mark])).toBeNull()
})
