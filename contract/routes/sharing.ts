import { MEDIA_TYPES } from '#core/exchange/media-types'
import { Id } from '../course'
import { AskedReading, FurtherReadings } from '../further-readings'
import { HandOver, Sees, ShareRule, Sharing, SharingTried } from '../marking'
import { route } from '../route'
import { z } from 'zod'
import { inCourse, lead, ofAssessment, overseers } from './common'

export const sharingRoutes = {
  sharing: route({
    method: 'GET',
    path: '/api/courses/:courseId/assessments/:assessmentId/sharing',
    access: overseers,
    summary: 'Who reads what of an assessment, and how far they are',
    params: ofAssessment,
    response: Sharing,
  }),
  trySharing: route({
    method: 'POST',
    path: '/api/courses/:courseId/assessments/:assessmentId/sharing/try',
    access: lead,
    summary: 'What sharing out would give; changes nothing',
    params: ofAssessment,
    body: ShareRule,
    response: SharingTried,
  }),
  shareOut: route({
    method: 'PUT',
    path: '/api/courses/:courseId/assessments/:assessmentId/sharing',
    access: lead,
    summary: 'Share the reading out; what is begun or done stays where it is',
    params: ofAssessment,
    body: ShareRule,
    response: Sharing,
  }),
  tryHandOver: route({
    method: 'GET',
    path: '/api/courses/:courseId/people/:personId/hand-over',
    access: lead,
    summary: 'What a marker leaves unread, and who would read it; changes nothing',
    params: inCourse.extend({ personId: Id }),
    response: HandOver,
  }),
  handOver: route({
    method: 'POST',
    path: '/api/courses/:courseId/people/:personId/hand-over',
    access: lead,
    summary: 'Hand what a marker leaves unread over to the others, by their loads; what they did of it is kept',
    params: inCourse.extend({ personId: Id }),
    /** What takes it back, for each assessment. */
    response: z.array(z.strictObject({ assessmentId: Id, sharingId: z.number().int() })),
  }),
  takeBackSharing: route({
    method: 'DELETE',
    path: '/api/courses/:courseId/assessments/:assessmentId/sharing/:sharingId',
    access: lead,
    summary: 'Take the last sharing out back: who read what before does again; what is begun or done stays where it is',
    params: ofAssessment.extend({ sharingId: z.coerce.number().int() }),
    response: Sharing,
  }),
  furtherReadings: route({
    method: 'GET',
    path: '/api/courses/:courseId/further-readings',
    access: overseers,
    summary: 'Readings asked for beyond those shared out, and what came of them',
    params: inCourse,
    response: z.array(AskedReading),
  }),
  askForReadings: route({
    takes: 'a list',
    method: 'POST',
    path: '/api/courses/:courseId/further-readings',
    access: lead,
    summary: 'Ask for further readings of scripts, of a marker or of whoever suits; each comes to their desk',
    params: inCourse,
    body: FurtherReadings,
    /** Those asked for now, and the scripts that nobody is left for, or that the marker named reads already. */
    response: z.strictObject({
      asked: z.array(AskedReading),
      nobodyFor: z.array(z.strictObject({ assessmentId: Id, studentId: Id })),
    }),
  }),
  takeBackAsked: route({
    method: 'DELETE',
    path: '/api/courses/:courseId/assessments/:assessmentId/further-readings/:studentId/:markerId',
    access: lead,
    summary: 'No longer ask for a reading that nobody has begun',
    params: ofAssessment.extend({ studentId: Id, markerId: Id }),
  }),
  setReadBy: route({
    method: 'PUT',
    path: '/api/courses/:courseId/assessments/:assessmentId/markers/:markerId/deadline',
    access: lead,
    summary: 'By when a marker should have read their pile; null for no day',
    params: ofAssessment.extend({ markerId: Id }),
    body: z.strictObject({ due: z.iso.date().nullable() }),
  }),
  setBlindness: route({
    method: 'PUT',
    path: '/api/courses/:courseId/assessments/:assessmentId/blindness',
    access: lead,
    summary: 'Whether markers see names, and what they see of other readings once theirs is handed in',
    params: ofAssessment,
    body: z.strictObject({ blind: z.boolean(), sees: Sees }),
  }),
  blindKey: route({
    method: 'GET',
    path: '/api/courses/:courseId/assessments/:assessmentId/numbers-of-papers.csv',
    access: lead,
    summary:
      'Which number stands for which student where markers see numbers in the place of names, to label work on paper by; noted on the audit list',
    params: ofAssessment,
    produces: MEDIA_TYPES.csv,
  }),
}
