import { z } from 'zod'
import { Change, Decision } from './changes'
import { CourseHead, Id } from './course'
import { IssueContent, IssueHead } from './issue'
import { route } from './route'
import { agreeRoutes } from './routes-agree'
import { deliveryRoutes } from './routes-deliveries'
import { markRoutes } from './routes-mark'
import { peopleRoutes } from './routes-people'
import { packageRoutes } from './routes-packages'
import { signOnRoutes } from './routes-sign-on'
import { setOutRoutes } from './routes-set-out'
import { tuningRoutes } from './routes-tuning'
import { Self } from './self'
import { BroughtIn, CellRefusal, CellState, CellWrite, Cell, ScriptDetail, SheetInColumns, SheetSince, TriedImport } from './table'
import { TableInColumns, TableSince } from './table-in-columns'

const Person = z.strictObject({ id: Id, name: z.string() })
const Me = Self.extend({
  /** The marker as whom one looks at a course, read only. */
  look: Person.extend({ courseId: Id }).nullable(),
})
export type Me = z.infer<typeof Me>
const inCourse = z.strictObject({ courseId: Id })
const inIssue = z.strictObject({ courseId: Id, number: z.coerce.number().int().min(1) })
export const Reason = z.string().trim().min(1, 'Say why, in a few words.').max(2000, 'At most 2000 characters.')
/** A file of marks: its text, or its bytes in base64 where it is no text. */
const MarksUpload = z.union([
  z.strictObject({ text: z.string().max(5_000_000, 'The file is over 5 MB. Bring it in section by section.') }),
  z.strictObject({
    file: z.base64('The file did not arrive whole.').max(16_000_000, 'The file is over 12 MB. Bring it in section by section.'),
  }),
])
export type MarksUpload = z.infer<typeof MarksUpload>

/** A trial as it is kept; version 0 where none ever was. */
export const KeptTrial = z.strictObject({ changes: z.array(Change).max(20_000), version: z.number().int().min(0) })
export type KeptTrial = z.infer<typeof KeptTrial>

const lead = ['lead'] as const
const overseers = ['lead', 'external'] as const
const staff = ['lead', 'marker', 'external'] as const

/** Every route there is: the server registers these, the web calls these, and the API description is made from these. */
export const routes = {
  ...setOutRoutes,
  ...agreeRoutes,
  ...tuningRoutes,
  ...markRoutes,
  ...deliveryRoutes,
  ...peopleRoutes,
  ...signOnRoutes,
  ...packageRoutes,
  openapi: route({ method: 'GET', path: '/api/openapi.json', access: 'anyone', summary: 'This description', response: z.unknown() }),
  health: route({
    method: 'GET',
    path: '/api/health',
    access: 'anyone',
    summary: 'Whether the server is up',
    response: z.strictObject({ ok: z.literal(true) }),
  }),

  directory: route({
    method: 'GET',
    path: '/api/sign-on',
    access: 'anyone',
    summary: 'Demo people of the stand-in sign-on; empty unless the server holds demo data',
    response: z.strictObject({
      people: z.array(z.strictObject({ signIn: z.string(), name: z.string(), does: z.string() })),
      passphrase: z.string().nullable(),
    }),
  }),
  signIn: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/session',
    access: 'anyone',
    summary: 'Sign in',
    body: z.strictObject({
      signIn: z.string().trim().min(1, 'Who are you?').max(200),
      passphrase: z.string().min(1, 'The passphrase is missing.').max(500),
    }),
    response: Self,
  }),
  me: route({
    method: 'GET',
    path: '/api/session',
    access: 'anyone',
    summary: 'Who is signed in; null where nobody is, or somebody else than the page was opened by',
    response: Me.nullable(),
  }),
  signOut: route({ method: 'DELETE', path: '/api/session', access: 'signed in', summary: 'Sign out', mayWhileLooking: true }),

  markers: route({
    method: 'GET',
    path: '/api/courses/:courseId/markers',
    access: overseers,
    summary: 'Who marks in the course',
    params: inCourse,
    response: z.array(Person),
  }),
  look: route({
    method: 'POST',
    path: '/api/courses/:courseId/looks',
    access: lead,
    summary: 'See the course as a marker sees it, read only, until one looks back; recorded',
    params: inCourse,
    body: z.strictObject({ personId: Id }),
  }),
  lookBack: route({
    method: 'DELETE',
    path: '/api/look',
    access: 'signed in',
    summary: 'See everything as oneself again',
    mayWhileLooking: true,
  }),
  looks: route({
    method: 'GET',
    path: '/api/courses/:courseId/looks',
    access: staff,
    summary: 'Who looked at the course as whom, and when; to a marker, who looked as they',
    params: inCourse,
    response: z.array(z.strictObject({ by: z.string(), as: z.string(), at: z.string(), endedAt: z.string().nullable() })),
  }),

  courses: route({
    method: 'GET',
    path: '/api/courses',
    access: 'anyone',
    summary: 'The courses one has a role in; none where nobody is signed in',
    response: z.array(CourseHead),
  }),
  table: route({
    method: 'GET',
    path: '/api/courses/:courseId/table',
    access: overseers,
    summary: 'Everything grades follow from',
    params: inCourse,
    response: TableInColumns,
  }),
  tableSince: route({
    method: 'GET',
    path: '/api/courses/:courseId/table/since/:version',
    access: overseers,
    summary: 'What of the table was written since a version',
    params: inCourse.extend({ version: z.coerce.number().int().min(0) }),
    response: TableSince,
  }),
  events: route({
    method: 'GET',
    path: '/api/courses/:courseId/events',
    access: staff,
    summary: 'Tells when the course changes',
    params: inCourse,
    produces: 'text/event-stream',
  }),

  sheet: route({
    method: 'GET',
    path: '/api/courses/:courseId/sheet',
    access: staff,
    summary: 'The mark sheet, as far as one may see it',
    params: inCourse,
    response: SheetInColumns,
  }),
  sheetSince: route({
    method: 'GET',
    path: '/api/courses/:courseId/sheet/since/:version',
    access: staff,
    summary: 'Cells of the sheet that were written since a version, as far as one may see them',
    params: inCourse.extend({ version: z.coerce.number().int().min(0) }),
    response: SheetSince,
  }),
  writeCells: route({
    takes: 'a list',
    method: 'PATCH',
    path: '/api/courses/:courseId/sheet',
    access: ['lead', 'marker'],
    summary: 'Write cells of the mark sheet: good ones are saved, the others come back with the reason',
    params: inCourse,
    body: z.strictObject({ cells: z.array(CellWrite).min(1).max(5000) }),
    response: z.strictObject({ saved: z.array(Cell), refused: z.array(CellRefusal) }),
  }),
  tryImport: route({
    takes: 'a file',
    method: 'POST',
    path: '/api/courses/:courseId/marks-file/try',
    access: ['lead', 'marker'],
    summary: 'What a file of marks would do, row by row; changes nothing',
    params: inCourse,
    body: MarksUpload,
    response: TriedImport,
  }),
  marksCsv: route({
    method: 'GET',
    path: '/api/courses/:courseId/marks.csv',
    access: staff,
    summary: 'The mark sheet as CSV, as far as one may see it; it comes back by the same columns',
    params: inCourse,
    produces: 'text/csv',
  }),
  marksXlsx: route({
    method: 'GET',
    path: '/api/courses/:courseId/marks.xlsx',
    access: staff,
    summary: 'The mark sheet as a workbook',
    params: inCourse,
    produces: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  }),
  marksRoster: route({
    method: 'GET',
    path: '/api/courses/:courseId/marks-results.zip',
    access: staff,
    summary: 'Results as one may see them, in the open roster format (OneRoster 1.2 CSV)',
    params: inCourse,
    produces: 'application/zip',
  }),
  bringIn: route({
    takes: 'a file',
    method: 'POST',
    path: '/api/courses/:courseId/marks-file',
    access: ['lead', 'marker'],
    summary: 'Bring a file of marks in: all of it or nothing',
    params: inCourse,
    body: MarksUpload,
    response: BroughtIn,
  }),
  cellStates: route({
    method: 'GET',
    path: '/api/courses/:courseId/sheet/:studentId/:assessmentId',
    access: staff,
    summary: 'Every state a cell of the sheet was in, the latest first; for a marker, of students of their own sections',
    params: z.strictObject({ courseId: Id, studentId: Id, assessmentId: Id }),
    response: z.array(CellState),
  }),
  script: route({
    method: 'GET',
    path: '/api/courses/:courseId/scripts/:scriptId',
    access: overseers,
    summary: 'A script with its readings and history',
    params: z.strictObject({ courseId: Id, scriptId: Id }),
    response: ScriptDetail,
  }),

  trial: route({
    method: 'GET',
    path: '/api/courses/:courseId/trial',
    access: lead,
    summary: 'The open trial',
    params: inCourse,
    response: KeptTrial,
  }),
  keepTrial: route({
    takes: 'a list',
    method: 'PUT',
    path: '/api/courses/:courseId/trial',
    access: lead,
    summary: 'Keep the open trial, in place of the version that one knows of; an empty one is discarded',
    params: inCourse,
    body: KeptTrial,
    response: KeptTrial,
  }),
  adopt: route({
    takes: 'a list',
    method: 'POST',
    path: '/api/courses/:courseId/decisions',
    access: lead,
    summary: 'Adopt changes as one decision',
    params: inCourse,
    body: z.strictObject({
      changes: z.array(Change).min(1).max(20_000),
      reason: Reason,
      /** The version of the open trial that it was; without it the trial stays as it is. */
      trialVersion: z.number().int().min(0).optional(),
    }),
    response: Decision,
  }),
  record: route({
    method: 'GET',
    path: '/api/courses/:courseId/decisions',
    access: overseers,
    summary: 'The record: all decisions, the latest first',
    params: inCourse,
    response: z.array(Decision),
  }),
  withdraw: route({
    method: 'POST',
    path: '/api/courses/:courseId/decisions/:decisionId/withdraw',
    access: lead,
    summary: 'Withdraw a decision',
    params: z.strictObject({ courseId: Id, decisionId: Id }),
    body: z.strictObject({ reason: Reason }),
    response: Decision,
  }),

  issues: route({
    method: 'GET',
    path: '/api/courses/:courseId/issues',
    access: overseers,
    summary: 'The issues confirmed so far',
    params: inCourse,
    response: z.array(IssueHead),
  }),
  confirm: route({
    method: 'POST',
    path: '/api/courses/:courseId/issues',
    access: lead,
    summary: 'Sign and freeze the results as the next issue',
    params: inCourse,
    body: z.strictObject({ statement: Reason }),
    response: IssueHead,
  }),
  issue: route({
    method: 'GET',
    path: '/api/courses/:courseId/issues/:number',
    access: overseers,
    summary: 'A frozen issue',
    params: inIssue,
    response: IssueContent,
  }),
  countersign: route({
    method: 'POST',
    path: '/api/courses/:courseId/issues/:number/signatures',
    access: overseers,
    summary: 'Add the second signature to the issue in force',
    params: inIssue,
    body: z.strictObject({ statement: Reason }),
    response: IssueHead,
  }),
  reopen: route({
    method: 'POST',
    path: '/api/courses/:courseId/reopen',
    access: lead,
    summary: 'Reopen a confirmed course; the next confirmation makes the next issue',
    params: inCourse,
    body: z.strictObject({ reason: Reason }),
    response: Decision,
  }),
  resultsCsv: route({
    method: 'GET',
    path: '/api/courses/:courseId/issues/:number/results.csv',
    access: overseers,
    summary: 'Confirmed results as CSV',
    params: inIssue,
    produces: 'text/csv',
  }),
  resultsXlsx: route({
    method: 'GET',
    path: '/api/courses/:courseId/issues/:number/results.xlsx',
    access: overseers,
    summary: 'Confirmed results as a workbook',
    params: inIssue,
    produces: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  }),
} as const
