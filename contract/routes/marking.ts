import { WHO_BY } from '#core/exchange/marks-who'
import { Id, Mark } from '../course'
import { SheetNames } from '../file-sheets'
import { JudgedInColumns } from '../judged'
import { AgreedBetween, DeskScript, KeptComment, Pile, PileScript, ReadingBody } from '../marking'
import { ByStanding } from '../outcomes'
import { route } from '../route'
import { BroughtIn, Cell, CellRefusal, CellState, CellWrite, ScriptDetail, SheetSince, TriedImport } from '../table'
import { SheetInColumns } from '../sheet-in-columns'
import { TableSince } from '../table-in-columns'
import { z } from 'zod'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { inCourse, lead, ofAssessment, overseers, staff } from './common'

const ofScript = ofAssessment.extend({ studentId: Id })

const marker = ['marker'] as const

/** A file of marks: its text, or its bytes in base64 where it is no text. */
const Column = z.number().int().min(0).max(500)
/** How a table of marks is to be read; left out where its heading says it. */
const match = z
  .strictObject({
    sheets: SheetNames.optional(),
    headingLine: z.number().int().min(1).max(60_000).optional(),
    who: z.strictObject({ column: Column, by: z.enum(WHO_BY) }).optional(),
    marks: z
      .array(z.strictObject({ column: Column, assessment: z.string().max(300) }))
      .max(500)
      .optional(),
  })
  .optional()
const MarksText = z.strictObject({ match, text: z.string().max(5_000_000, 'The file is over 5 MB. Bring it in section by section.') })
const MarksBytes = z.strictObject({
  match,
  file: z.base64('The file did not arrive whole.').max(16_000_000, 'The file is over 12 MB. Bring it in section by section.'),
})
const MarksUpload = z.union([MarksText, MarksBytes])
export type MarksUpload = z.infer<typeof MarksUpload>
/** How many rows were seen to be refused, and are left out on purpose. */
const leaveOut = z.number().int().min(0).optional()

export const markingRoutes = {
  byStanding: route({
    method: 'GET',
    path: '/api/courses/:courseId/by-standing',
    access: staff,
    summary: 'Assessments whose marks are where students stand on an outcome',
    params: inCourse,
    response: z.array(ByStanding),
  }),
  markByStanding: route({
    takes: 'a little',
    method: 'PUT',
    path: '/api/courses/:courseId/assessments/:assessmentId/by-standing',
    access: lead,
    summary: 'Mark an assessment by where students stand on an outcome; its marks follow as evidence comes in',
    params: ofAssessment,
    body: ByStanding.pick({ outcomeId: true, worth: true }),
    response: z.strictObject({ marks: z.number().int() }),
  }),
  markByHand: route({
    method: 'DELETE',
    path: '/api/courses/:courseId/assessments/:assessmentId/by-standing',
    access: lead,
    summary: 'Mark it by hand again; the marks it has stay as they are',
    params: ofAssessment,
  }),
  attemptFile: route({
    method: 'GET',
    path: '/api/courses/:courseId/assessments/:assessmentId/pile/:studentId/attempts/:attempt',
    access: staff,
    summary: 'The PDF of an attempt at a script; for a marker, of a script of their own pile',
    params: z.strictObject({ courseId: Id, assessmentId: Id, studentId: Id, attempt: z.coerce.number().int().min(1) }),
    produces: MEDIA_TYPES.pdf,
  }),
  piles: route({
    method: 'GET',
    path: '/api/courses/:courseId/piles',
    access: marker,
    summary: 'What is one’s own to read, by assessment',
    params: inCourse,
    response: z.array(Pile),
  }),
  pile: route({
    method: 'GET',
    path: '/api/courses/:courseId/assessments/:assessmentId/pile',
    access: marker,
    summary: 'The scripts of one’s pile, in one’s own order',
    params: ofAssessment,
    response: z.array(PileScript),
  }),
  deskScript: route({
    method: 'GET',
    path: '/api/courses/:courseId/assessments/:assessmentId/pile/:studentId',
    access: marker,
    summary: 'A script of one’s pile with one’s own reading; of others only what one may see, once it is handed in',
    params: ofScript,
    response: DeskScript,
  }),
  keepReading: route({
    method: 'PUT',
    path: '/api/courses/:courseId/assessments/:assessmentId/pile/:studentId/reading',
    access: marker,
    summary: 'Keep one’s own reading as a draft, hand it in, or take it back; a repeated one is not applied twice',
    params: ofScript,
    body: ReadingBody.extend({
      version: z.number().int().min(0),
      state: z.enum(['draft', 'handed in']),
      gapMeant: z.boolean(),
      afterSeeing: z.boolean(),
    }),
    response: z.strictObject({ version: z.number().int(), mark: z.number().nullable(), state: z.enum(['draft', 'handed in']) }),
  }),
  proposeBetween: route({
    takes: 'a little',
    method: 'PUT',
    path: '/api/courses/:courseId/assessments/:assessmentId/pile/:studentId/between',
    access: marker,
    summary: 'Propose a mark to the other reader of a script of one’s pile, where the lead lets two who disagree agree',
    params: ofScript,
    body: z.strictObject({ mark: Mark.min(0), reason: z.string().trim().min(1, 'Say why, in a few words.').max(2000) }),
  }),
  answerBetween: route({
    takes: 'a little',
    method: 'PUT',
    path: '/api/courses/:courseId/assessments/:assessmentId/pile/:studentId/between/answer',
    access: marker,
    summary: 'Agree to what the other reader proposes, or not; the lead settles it either way',
    params: ofScript,
    body: z.strictObject({ agrees: z.boolean(), words: z.string().trim().max(2000) }),
  }),
  withdrawBetween: route({
    method: 'DELETE',
    path: '/api/courses/:courseId/assessments/:assessmentId/pile/:studentId/between',
    access: marker,
    summary: 'Withdraw what one has proposed to the other reader, while it waits for an answer',
    params: ofScript,
  }),
  between: route({
    method: 'GET',
    path: '/api/courses/:courseId/between',
    access: overseers,
    summary: 'All that readers who disagree proposed to each other, the first of each script first',
    params: inCourse,
    response: z.array(AgreedBetween),
  }),
  keptComments: route({
    method: 'GET',
    path: '/api/courses/:courseId/kept-comments',
    access: marker,
    summary: 'One’s own stock of comments, the most used first',
    params: inCourse,
    response: z.array(KeptComment),
  }),
  keepComment: route({
    method: 'POST',
    path: '/api/courses/:courseId/kept-comments',
    access: marker,
    summary: 'Keep a comment, or count another use of it',
    params: inCourse,
    body: z.strictObject({ words: z.string().trim().min(1, 'Write the comment first.').max(2000) }),
    response: z.strictObject({ id: Id }),
  }),
  dropComment: route({
    method: 'DELETE',
    path: '/api/courses/:courseId/kept-comments/:commentId',
    access: marker,
    summary: 'Take a comment out of one’s stock',
    params: inCourse.extend({ commentId: Id }),
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
  sheet: route({
    method: 'GET',
    path: '/api/courses/:courseId/sheet',
    access: staff,
    summary: 'The mark sheet, as far as one may see it',
    gives: 'a lot',
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
    body: z.strictObject({
      cells: z.array(CellWrite).min(1).max(5000),
      /** Of the table, where the page has it: who oversees the course is then told at once what was written to it since. */
      tableVersion: z.number().int().min(0).optional(),
    }),
    response: z.strictObject({
      saved: z.array(Cell),
      refused: z.array(CellRefusal),
      /** Left out where the table has to be asked for. */
      since: TableSince.unwrap().optional(),
    }),
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
    produces: MEDIA_TYPES.csv,
  }),
  marksXlsx: route({
    method: 'GET',
    path: '/api/courses/:courseId/marks.xlsx',
    access: staff,
    summary: 'The mark sheet as a workbook',
    params: inCourse,
    produces: MEDIA_TYPES.xlsx,
  }),
  marksRoster: route({
    method: 'GET',
    path: '/api/courses/:courseId/marks-results.zip',
    access: staff,
    summary: 'Results as one may see them, in the open roster format (OneRoster 1.2 CSV)',
    params: inCourse,
    produces: MEDIA_TYPES.zip,
  }),
  bringIn: route({
    takes: 'a file',
    method: 'POST',
    path: '/api/courses/:courseId/marks-file',
    access: ['lead', 'marker'],
    summary: 'Bring a file of marks in: all of it or nothing',
    params: inCourse,
    body: z.union([MarksText.extend({ leaveOut }), MarksBytes.extend({ leaveOut })]),
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
  judged: route({
    method: 'GET',
    path: '/api/courses/:courseId/assessments/:assessmentId/judged',
    access: overseers,
    summary: 'All handed-in readings of an assessment, criterion by criterion',
    params: ofAssessment,
    response: JudgedInColumns,
  }),
  script: route({
    method: 'GET',
    path: '/api/courses/:courseId/scripts/:scriptId',
    access: overseers,
    summary: 'A script with its readings and history',
    params: z.strictObject({ courseId: Id, scriptId: Id }),
    response: ScriptDetail,
  }),
}
