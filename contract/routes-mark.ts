import { z } from 'zod'
import { Id } from './course'
import { DeskScript, HandOver, KeptComment, Pile, PileScript, ReadingBody, Sees, ShareRule, Sharing, SharingTried } from './marking'
import { route } from './route'

const inCourse = z.strictObject({ courseId: Id })
const ofAssessment = z.strictObject({ courseId: Id, assessmentId: Id })
const ofScript = ofAssessment.extend({ studentId: Id })
const lead = ['lead'] as const
const marker = ['marker'] as const
const overseers = ['lead', 'external'] as const

/** Routes of the third stop beside the mark sheet: sharing out, and the desk. */
export const markRoutes = {
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
} as const
