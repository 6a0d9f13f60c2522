import { z } from 'zod'
import { Assessment, Component, CourseHead, Decimal, Id, Mark, Marking, plainName, Policy, StandardUse, Title, Weight } from './course'
import { NewAssessment, NewComponent, NewCourse, OwnWork, PlacementWrite, Plan, Taken } from './plan'
import {
  Candidate,
  ExternalId,
  PersonName,
  RollFileKept,
  RollInColumns,
  RollSection,
  RollStudent,
  RollUpload,
  SectionCode,
  SectionName,
  Stay,
  Weekdays,
} from './roll'
import { route } from './route'
import { Cell } from './table'

const inCourse = z.strictObject({ courseId: Id })
const version = z.number().int()
const lead = ['lead'] as const
const overseers = ['lead', 'external'] as const
const staff = ['lead', 'marker', 'external'] as const
const AcceptReason = z.string().trim().min(1, 'Say why it may stand.').max(500, 'At most 500 characters.')
const FindingKey = z.string().min(1).max(400)
const section = { name: SectionName, teacherId: Id.nullable(), weekdays: Weekdays, firstDay: z.iso.date().nullable() }

/** Routes of the first stop: the roll, the plan and the placements. */
export const setOutRoutes = {
  startCourse: route({
    method: 'POST',
    path: '/api/courses',
    access: 'signed in',
    summary: 'Start a course, from nothing or from another one; never with its marks. For who leads a course or administers',
    body: NewCourse,
    response: CourseHead,
  }),
  plan: route({
    method: 'GET',
    path: '/api/courses/:courseId/plan',
    access: overseers,
    summary: 'The plan and the placements as decided so far',
    params: inCourse,
    response: Plan,
  }),

  roll: route({
    method: 'GET',
    path: '/api/courses/:courseId/roll',
    access: overseers,
    summary: 'Sections and students with their times in sections, those who left too; students by column',
    params: inCourse,
    response: RollInColumns,
  }),
  addSection: route({
    method: 'POST',
    path: '/api/courses/:courseId/sections',
    access: lead,
    summary: 'Add a section',
    params: inCourse,
    body: z.strictObject({ code: SectionCode, ...section }),
    response: RollSection,
  }),
  editSection: route({
    method: 'PATCH',
    path: '/api/courses/:courseId/sections/:sectionId',
    access: lead,
    summary: 'Edit a section',
    params: z.strictObject({ courseId: Id, sectionId: Id }),
    body: z
      .strictObject({ version, code: SectionCode, ...section })
      .partial()
      .required({ version: true }),
    response: RollSection,
  }),
  removeSection: route({
    method: 'DELETE',
    path: '/api/courses/:courseId/sections/:sectionId',
    access: lead,
    summary: 'Take away a section that nobody was ever in',
    params: z.strictObject({ courseId: Id, sectionId: Id }),
  }),
  removeStudent: route({
    method: 'DELETE',
    path: '/api/courses/:courseId/students/:studentId',
    access: lead,
    summary: 'Take away a student who has no work of any kind; others are withdrawn',
    params: z.strictObject({ courseId: Id, studentId: Id }),
  }),
  addStudent: route({
    method: 'POST',
    path: '/api/courses/:courseId/students',
    access: lead,
    summary: 'Add a student',
    params: inCourse,
    body: z.strictObject({ name: PersonName, candidate: Candidate, externalId: ExternalId.nullable(), sectionId: Id, from: z.iso.date() }),
    response: RollStudent,
  }),
  editStudent: route({
    method: 'PATCH',
    path: '/api/courses/:courseId/students/:studentId',
    access: lead,
    summary: 'Edit a student; stays move, withdraw or bring back, and leave marks and readings where they are',
    params: z.strictObject({ courseId: Id, studentId: Id }),
    body: z
      .strictObject({
        version,
        name: PersonName,
        candidate: Candidate,
        externalId: ExternalId.nullable(),
        stays: z.array(Stay).min(1).max(40),
      })
      .partial()
      .required({ version: true }),
    response: RollStudent,
  }),
  setNames: route({
    method: 'PUT',
    path: '/api/courses/:courseId/names-to-markers',
    access: lead,
    summary: 'Whether markers are sent names or candidate numbers',
    params: inCourse,
    body: z.strictObject({ names: z.boolean() }),
    response: z.strictObject({ names: z.boolean() }),
  }),
  tryRoll: route({
    takes: 'a file',
    method: 'POST',
    path: '/api/courses/:courseId/roll-file/try',
    access: lead,
    summary: 'What a roll file (CSV, XLSX, OneRoster 1.2 CSV zip) would do, row by row; a line of JSON for every step, then the answer',
    params: inCourse,
    body: RollUpload,
    produces: 'application/x-ndjson',
  }),
  bringInRoll: route({
    takes: 'a file',
    method: 'POST',
    path: '/api/courses/:courseId/roll-file',
    access: lead,
    summary: 'Bring a roll file in: all of it or nothing; students not in it stay unless named',
    params: inCourse,
    body: RollUpload.extend({
      withdraw: z.array(Id).max(50_000),
      /** The file's name, for the record. */
      name: plainName(z.string().trim().min(1).max(200)),
    }),
    produces: 'application/x-ndjson',
  }),
  rollFiles: route({
    method: 'GET',
    path: '/api/courses/:courseId/roll-files',
    access: overseers,
    summary: 'Rolls that were brought in from files, the latest first',
    params: inCourse,
    response: z.array(RollFileKept),
  }),
  undoRollFile: route({
    method: 'POST',
    path: '/api/courses/:courseId/roll-files/:fileId/undo',
    access: lead,
    summary: 'Put back all that a roll from a file touched; refused where any of it was changed since',
    params: z.strictObject({ courseId: Id, fileId: Id }),
    response: z.array(RollFileKept),
  }),
  rollCsv: route({
    method: 'GET',
    path: '/api/courses/:courseId/roll.csv',
    access: overseers,
    summary: 'The roll as CSV',
    params: inCourse,
    produces: 'text/csv',
  }),
  rollXlsx: route({
    method: 'GET',
    path: '/api/courses/:courseId/roll.xlsx',
    access: overseers,
    summary: 'The roll as a workbook',
    params: inCourse,
    produces: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  }),
  rollOneRoster: route({
    method: 'GET',
    path: '/api/courses/:courseId/roll.zip',
    access: overseers,
    summary: 'The roll as OneRoster 1.2 CSV, zipped',
    params: inCourse,
    produces: 'application/zip',
  }),

  addComponent: route({
    method: 'POST',
    path: '/api/courses/:courseId/components',
    access: lead,
    summary: 'Add a component',
    params: inCourse,
    body: NewComponent,
    response: Component,
  }),
  editComponent: route({
    method: 'PATCH',
    path: '/api/courses/:courseId/components/:componentId',
    access: lead,
    summary: 'Edit a component; what changes grades only before there are marks',
    params: z.strictObject({ courseId: Id, componentId: Id }),
    body: NewComponent.partial().extend({ version }),
    response: Component,
  }),
  removeComponent: route({
    method: 'DELETE',
    path: '/api/courses/:courseId/components/:componentId',
    access: lead,
    summary: 'Take away a component that holds no assessment',
    params: z.strictObject({ courseId: Id, componentId: Id }),
  }),
  addAssessment: route({
    method: 'POST',
    path: '/api/courses/:courseId/assessments',
    access: lead,
    summary: 'Add an assessment; recorded but not counted once there are marks',
    params: inCourse,
    body: NewAssessment,
    response: Assessment,
  }),
  editAssessment: route({
    method: 'PATCH',
    path: '/api/courses/:courseId/assessments/:assessmentId',
    access: lead,
    summary: 'Edit an assessment; what changes grades only before there are marks',
    params: z.strictObject({ courseId: Id, assessmentId: Id }),
    body: z
      .strictObject({
        version,
        componentId: Id,
        title: Title,
        marking: Marking,
        outOf: Decimal.positive('Must be above 0.').max(10_000),
        worth: Weight.nullable(),
        worthFollows: z.boolean(),
        passMark: Decimal.min(0).nullable(),
        tolerance: Decimal.min(0),
        readingsWanted: z.number().int().min(1).max(9),
        counts: z.boolean(),
        bonus: z.boolean(),
        droppable: z.boolean(),
        notes: z.string().max(4000, 'At most 4000 characters.'),
        away: z.boolean(),
        use: StandardUse,
      })
      .partial()
      .required({ version: true }),
    response: Assessment,
  }),
  orderAssessments: route({
    method: 'PUT',
    path: '/api/courses/:courseId/assessments/order',
    access: lead,
    summary: 'Put the assessments in an order; it decides only which of two equally good ones is named as dropped',
    params: inCourse,
    body: z.strictObject({ ids: z.array(Id).min(1).max(1000) }),
  }),
  copyAssessment: route({
    method: 'POST',
    path: '/api/courses/:courseId/assessments/copies',
    access: lead,
    summary: 'Copy an assessment of this course or of another one that you may see; never its marks',
    params: inCourse,
    body: z.strictObject({ fromCourseId: Id, assessmentId: Id, componentId: Id, take: Taken }),
    response: Assessment,
  }),
  startingMark: route({
    method: 'POST',
    path: '/api/courses/:courseId/assessments/:assessmentId/starting-mark',
    access: lead,
    summary: 'Give everyone without a mark the same one, once; never over a mark that stands',
    params: z.strictObject({ courseId: Id, assessmentId: Id }),
    body: z.strictObject({ mark: Mark.min(0) }),
    response: z.strictObject({ given: z.array(Cell), stood: z.number().int() }),
  }),
  setPolicy: route({
    method: 'PUT',
    path: '/api/courses/:courseId/policy',
    access: lead,
    summary: 'Set the policies; only before there are marks, after that they are tried and adopted',
    params: inCourse,
    body: z.strictObject({ policy: Policy }),
    response: z.strictObject({ policy: Policy }),
  }),

  setPlacements: route({
    takes: 'a list',
    method: 'PUT',
    path: '/api/courses/:courseId/placements',
    access: lead,
    summary: 'Set, date, release or take off many placements at once; answers with how they were',
    params: inCourse,
    body: z.strictObject({ placements: z.array(PlacementWrite).min(1).max(100_000) }),
    response: z.strictObject({ before: z.array(PlacementWrite) }),
  }),
  acceptFinding: route({
    takes: 'a list',
    method: 'POST',
    path: '/api/courses/:courseId/accepted-findings',
    access: lead,
    summary: 'Let findings stand, with a reason: they stay quiet until their date changes',
    params: inCourse,
    body: z.strictObject({ keys: z.array(FindingKey).min(1).max(5000), reason: AcceptReason }),
  }),
  raiseFinding: route({
    takes: 'a list',
    method: 'DELETE',
    path: '/api/courses/:courseId/accepted-findings',
    access: lead,
    summary: 'Raise findings again that were let stand',
    params: inCourse,
    body: z.strictObject({ keys: z.array(FindingKey).min(1).max(5000) }),
  }),
  sectionCalendar: route({
    method: 'GET',
    path: '/api/courses/:courseId/sections/:sectionId/due.ics',
    access: staff,
    summary: 'Due days of a section as iCalendar; a marker’s own sections only',
    params: z.strictObject({ courseId: Id, sectionId: Id }),
    produces: 'text/calendar',
  }),
  personCalendar: route({
    method: 'GET',
    path: '/api/courses/:courseId/people/:personId/due.ics',
    access: staff,
    summary: 'Due days of the sections a person teaches as iCalendar; a marker’s own only',
    params: z.strictObject({ courseId: Id, personId: Id }),
    produces: 'text/calendar',
  }),
  ownWork: route({
    method: 'GET',
    path: '/api/courses/:courseId/own-work',
    access: ['student'],
    summary: 'A student’s own work: due days, and marks once they are released',
    params: inCourse,
    response: OwnWork,
  }),
} as const
