import type { Cell, CourseHead, StandardUse } from '#contract'

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
