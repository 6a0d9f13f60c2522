import { Assessment, CourseHead, CourseNamed, Id, inOrder } from '../course'
import { Erased } from '../keeping'
import { AssessmentUpload, NewCourse, Plan, Taken, TriedAssessment } from '../plan'
import { route } from '../route'
import { TableInColumns, TableSince } from '../table-in-columns'
import { z } from 'zod'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { inCourse, lead, ofAssessment, onePerson, overseers, staff } from './common'

const InstalledCourse = CourseHead.omit({ role: true }).extend({
  leads: z.array(z.string()),
  /** From which day on they can be; null where it is not put away. */
  namelessFrom: z.string().nullable(),
  /** Whether it holds no mark and no decision, so that it can be removed. */
  bare: z.boolean(),
})
export type InstalledCourse = z.infer<typeof InstalledCourse>

export const coursesRoutes = {
  installedCourses: route({
    method: 'GET',
    path: '/api/installation/courses',
    access: 'admin',
    summary: 'All courses with their leads; no marks',
    response: z.array(InstalledCourse),
  }),
  giveLead: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/installation/courses/:courseId/leads',
    access: 'admin',
    summary: 'Give a course a lead',
    params: inCourse,
    body: onePerson,
  }),
  putAway: route({
    takes: 'a little',
    method: 'PUT',
    path: '/api/installation/courses/:courseId/away',
    access: 'admin',
    summary: 'Put a course away, so that it can be read and not written, or bring it back',
    params: inCourse,
    body: z.strictObject({ away: z.boolean() }),
  }),
  removeCourse: route({
    method: 'DELETE',
    path: '/api/installation/courses/:courseId',
    access: 'admin',
    summary: 'Remove a course that was made by mistake: only one without marks, scripts and decisions',
    params: inCourse,
  }),
  countNames: route({
    method: 'GET',
    path: '/api/installation/courses/:courseId/names',
    access: 'admin',
    summary: 'How much would be erased if the course were made nameless',
    params: inCourse,
    response: Erased,
  }),
  makeNameless: route({
    method: 'DELETE',
    path: '/api/installation/courses/:courseId/names',
    access: 'admin',
    summary: 'Erase the names, works, remarks and letters of a course that is put away long enough; its figures and decisions stay',
    params: inCourse,
    body: z.strictObject({ reasons: z.array(z.string().max(5000)).max(5000) }),
    response: Erased,
  }),
  editCourse: route({
    takes: 'a little',
    method: 'PATCH',
    path: '/api/courses/:courseId',
    access: lead,
    summary: 'Correct a course’s code, title, term and teaching days',
    params: inCourse,
    body: inOrder(CourseNamed),
    response: CourseHead,
  }),
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
  assessmentPackage: route({
    method: 'GET',
    path: '/api/courses/:courseId/assessments/:assessmentId/package.zip',
    access: overseers,
    summary: 'An assessment with what it is marked by, its marks and readings, as a Data Package; students by their numbers',
    params: ofAssessment,
    produces: MEDIA_TYPES.zip,
  }),
  tryAssessmentPackage: route({
    takes: 'a file',
    method: 'POST',
    path: '/api/courses/:courseId/assessment-packages/try',
    access: lead,
    summary: 'What assessment a Data Package holds; changes nothing',
    params: inCourse,
    body: AssessmentUpload,
    response: TriedAssessment,
  }),
  bringInAssessment: route({
    takes: 'a file',
    method: 'POST',
    path: '/api/courses/:courseId/assessment-packages',
    access: lead,
    summary: 'Add the assessment of a Data Package, and what it is marked by where the library does not have it; never its marks',
    params: inCourse,
    body: AssessmentUpload.extend({ componentId: Id }),
    response: z.strictObject({ assessment: Assessment }),
  }),
  copyAssessment: route({
    method: 'POST',
    path: '/api/courses/:courseId/assessments/copies',
    access: lead,
    summary: 'Copy an assessment of this course or of another one that you may see; never its marks',
    params: inCourse,
    body: z.strictObject({ fromCourseId: Id, assessmentId: Id, componentId: Id, take: Taken }),
    /** With the sections that it was not set for, since they had not begun by then. */
    response: z.strictObject({ assessment: Assessment, leftOut: z.array(z.string()) }),
  }),
  table: route({
    method: 'GET',
    path: '/api/courses/:courseId/table',
    access: overseers,
    summary: 'Everything grades follow from',
    gives: 'a lot',
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
    summary: 'Tells when the course changes, and as “making” how far an issue is that somebody makes',
    params: inCourse,
    produces: 'text/event-stream',
  }),
}
