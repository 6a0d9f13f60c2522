import { Change } from '../changes'
import { Assessment, Id } from '../course'
import { Library, LibraryFile, LibraryUpload, RubricVersion, Standard, StandardEdited, StandardId, StandardState } from '../library'
import { route } from '../route'
import { z } from 'zod'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { inCourse, lead, staff } from './common'

const ofStandard = z.strictObject({ courseId: Id, standardId: Id })

const Carrying = z.strictObject({
  changes: z.array(Change),
  /** Readings carried over, and how many of their marks change. */
  carried: z.number().int(),
  moved: z.number().int(),
  /** Agreed marks that follow their readings. */
  settled: z.number().int(),
})
const NotCarried = z.strictObject({ scriptId: Id, student: z.string(), marker: z.string(), why: z.string() })

export const libraryRoutes = {
  library: route({
    method: 'GET',
    path: '/api/courses/:courseId/library',
    access: staff,
    summary: 'Rubrics, mark schemes and scales of the department, the newest version of each, and who uses them',
    params: inCourse,
    response: Library,
  }),
  addStandard: route({
    takes: 'a list',
    method: 'POST',
    path: '/api/courses/:courseId/library',
    access: lead,
    summary: 'Make a rubric, mark scheme or scale',
    params: inCourse,
    /** With what a file named it, where it comes from one. */
    body: z.strictObject({ standard: Standard, source: z.string().max(200).nullable() }),
    response: StandardId,
  }),
  editStandard: route({
    takes: 'a list',
    method: 'PUT',
    path: '/api/courses/:courseId/library/:standardId',
    access: lead,
    summary: 'Edit one of your own; where readings use it, the edit makes the next version, whose id is answered',
    params: ofStandard,
    body: z.strictObject({ revision: z.number().int(), standard: Standard }),
    response: StandardEdited,
  }),
  copyStandard: route({
    method: 'POST',
    path: '/api/courses/:courseId/library/:standardId/copies',
    access: lead,
    summary: 'Take a copy of your own',
    params: ofStandard,
    response: StandardId,
  }),
  setStandardState: route({
    method: 'PUT',
    path: '/api/courses/:courseId/library/:standardId/state',
    access: lead,
    summary: 'Make one of your own ready, a draft again, or retired',
    params: ofStandard,
    body: z.strictObject({ state: StandardState }),
  }),
  rubricVersions: route({
    method: 'GET',
    path: '/api/courses/:courseId/library/:standardId/versions',
    access: staff,
    summary: 'All versions of a rubric, the latest first',
    params: ofStandard,
    response: z.array(RubricVersion),
  }),
  suggest: route({
    method: 'POST',
    path: '/api/courses/:courseId/library/:standardId/suggestions',
    access: ['lead', 'marker'],
    summary: 'Suggest a change to the owner, in words or by a copy that has it',
    params: ofStandard,
    body: z.strictObject({ words: z.string().trim().min(1, 'Say what should change.').max(2000), copyId: Id.nullable() }),
    response: StandardId,
  }),
  answerSuggestion: route({
    method: 'PUT',
    path: '/api/courses/:courseId/library/:standardId/suggestions/:suggestionId',
    access: lead,
    summary: 'Take a suggestion to one of your own over, or decline it; a copy taken over is an edit',
    params: ofStandard.extend({ suggestionId: Id }),
    body: z.strictObject({ answer: z.enum(['taken over', 'declined']), reply: z.string().trim().max(2000) }),
    response: StandardEdited,
  }),
  carriedOver: route({
    method: 'GET',
    path: '/api/courses/:courseId/assessments/:assessmentId/carried/:standardId',
    access: lead,
    summary: 'What carrying the readings of an assessment over to a version of its rubric or scale would change; changes nothing',
    params: z.strictObject({ courseId: Id, assessmentId: Id, standardId: Id }),
    response: z.strictObject({
      ...Carrying.shape,
      /** Readings that cannot be carried over, and why; they stay as they are. */
      left: z.array(NotCarried),
      /** The same with those too that are at a level that is gone, at the nearest one; null where there are none. */
      nearest: Carrying.extend({ at: z.array(NotCarried) }).nullable(),
    }),
  }),
  readLibraryFile: route({
    takes: 'a file',
    method: 'POST',
    path: '/api/courses/:courseId/library-files',
    access: lead,
    summary: 'What a file holds: tables of CSV, XLSX or DOCX, rubrics of CASE 1.1 JSON; changes nothing',
    params: inCourse,
    body: LibraryUpload,
    response: LibraryFile,
  }),
  standardCsv: route({
    method: 'GET',
    path: '/api/courses/:courseId/library/:standardId/table.csv',
    access: staff,
    summary: 'A rubric, mark scheme or scale as a CSV table',
    params: ofStandard,
    produces: MEDIA_TYPES.csv,
  }),
  standardXlsx: route({
    method: 'GET',
    path: '/api/courses/:courseId/library/:standardId/table.xlsx',
    access: staff,
    summary: 'A rubric, mark scheme or scale as a workbook',
    params: ofStandard,
    produces: MEDIA_TYPES.xlsx,
  }),
  standardCase: route({
    method: 'GET',
    path: '/api/courses/:courseId/library/:standardId/case.json',
    access: staff,
    summary: 'An entry of the library as a CASE 1.1 package',
    params: ofStandard,
    produces: MEDIA_TYPES.json,
  }),
  standardPackage: route({
    method: 'GET',
    path: '/api/courses/:courseId/library/:standardId/package.zip',
    access: staff,
    summary: 'An entry of the library as a Data Package: as a table, and whole as CASE 1.1',
    params: ofStandard,
    produces: MEDIA_TYPES.zip,
  }),
  outcomesCase: route({
    method: 'GET',
    path: '/api/courses/:courseId/library-outcomes.json',
    access: staff,
    summary: 'All outcomes of the library with their groups as a CASE 1.1 package',
    params: inCourse,
    produces: MEDIA_TYPES.json,
  }),
  attachStandard: route({
    method: 'PUT',
    path: '/api/courses/:courseId/assessments/:assessmentId/standard',
    access: lead,
    summary: 'Attach a rubric, mark scheme or scale to an assessment, at which it is in use; null takes it off',
    params: z.strictObject({ courseId: Id, assessmentId: Id }),
    body: z.strictObject({ version: z.number().int(), standardId: Id.nullable() }),
    response: Assessment,
  }),
}
