import {
  USUAL_SETTINGS,
  type Assessment,
  type Cell,
  type CourseHead,
  type Plan,
  type ScriptDetail,
  type StandardUse,
  type TableCell,
} from '#contract'

/** How a standard is used where nothing was set. */
export const USE: StandardUse = {
  studentsBefore: false,
  remarks: true,
  criterionComments: false,
  ranges: true,
  hidePoints: false,
  hideWords: false,
  noteOn: [],
}

export const courseHead = (role: CourseHead['role'], more: Partial<CourseHead> = {}): CourseHead => ({
  id: 'c',
  code: 'CFS 9',
  title: 'Field work',
  term: 'autumn',
  firstDay: '2026-09-07',
  lastDay: '2026-12-18',
  role,
  sections: 2,
  students: 4,
  confirmedIssue: null,
  issueInForce: null,
  awayAt: null,
  namelessAt: null,
  ...more,
})

export const cell = (studentId: string, assessmentId: string, mark: number | null, more: Partial<Cell> = {}): Cell => ({
  studentId,
  assessmentId,
  status: 'in',
  daysLate: 0,
  mark,
  fromReadings: null,
  version: 1,
  ...more,
})

/** The same in the table that grades follow from. */
export const tableCell = (studentId: string, assessmentId: string, entered: number | null): TableCell => ({
  studentId,
  assessmentId,
  status: 'in',
  daysLate: 0,
  entered,
  readings: [],
  agreed: null,
  agreedBy: null,
  reopened: false,
})

/** Who is signed in, as the door is told. */
export const self = (id: string, name = id) => ({ id, name, admin: false, keepKey: '', timeZone: 'UTC', settings: USUAL_SETTINGS })

export const component = (id: string, weight: number | null): Plan['components'][number] => ({
  id,
  title: id[0]!.toUpperCase() + id.slice(1),
  weight,
  combine: 'byWorth',
  dropLowest: 0,
  bonus: false,
  version: 1,
})

export const assessment = (id: string, more: Partial<Assessment> = {}): Assessment => ({
  id,
  componentId: 'work',
  title: id[0]!.toUpperCase() + id.slice(1),
  marking: 'direct',
  outOf: 20,
  worth: 20,
  worthFollows: true,
  counts: true,
  bonus: false,
  droppable: true,
  passMark: null,
  tolerance: 2,
  readingsWanted: 1,
  step: null,
  standardId: null,
  use: USE,
  notes: '',
  version: 1,
  ...more,
})

/** A plan with nothing in it. */
export const planOf = (more: Partial<Plan> = {}): Plan => ({
  head: courseHead('lead'),
  version: 1,
  hasMarks: false,
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: { decimals: 0 }, above100: 'cap' },
  boundaries: [],
  conditions: [],
  sections: [],
  components: [],
  assessments: [],
  away: [],
  releases: [],
  placements: [],
  leftOut: {},
  accepted: [],
  ...more,
})

export const scriptDetail = (id: string, more: Partial<ScriptDetail> = {}): ScriptDetail => ({
  id,
  student: { id: 'ada', name: 'Ada', candidate: '4711', sectionId: 'east' },
  assessmentId: 'paper',
  status: 'in',
  daysLate: 0,
  remark: '',
  entered: null,
  cameAt: null,
  readings: [],
  history: [],
  words: [],
  attempts: [],
  ...more,
})
