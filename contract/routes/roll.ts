import { Id, plainName } from '../course'
import { SignInName } from '../people'
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
} from '../roll'
import { route } from '../route'
import { z } from 'zod'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { inCourse, lead, overseers, version } from './common'

const section = { name: SectionName, teacherId: Id.nullable(), weekdays: Weekdays, firstDay: z.iso.date().nullable() }

export const rollRoutes = {
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
    body: z.strictObject({
      name: PersonName,
      candidate: Candidate,
      externalId: ExternalId.nullable(),
      signIn: SignInName.nullable().default(null),
      sectionId: Id,
      from: z.iso.date(),
    }),
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
        signIn: SignInName.nullable(),
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
      /** Lines that are refused and left out on purpose. */
      leaveOut: z.array(z.number().int()).max(50_000).default([]),
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
    produces: MEDIA_TYPES.csv,
  }),
  rollXlsx: route({
    method: 'GET',
    path: '/api/courses/:courseId/roll.xlsx',
    access: overseers,
    summary: 'The roll as a workbook',
    params: inCourse,
    produces: MEDIA_TYPES.xlsx,
  }),
  rollOneRoster: route({
    method: 'GET',
    path: '/api/courses/:courseId/roll.zip',
    access: overseers,
    summary: 'The roll as OneRoster 1.2 CSV, zipped',
    params: inCourse,
    produces: MEDIA_TYPES.zip,
  }),
}
