import { Id } from '../course'
import { route } from '../route'
import { ExemplarBody, Exemplars, Gate, Judged } from '../exemplars'
import { z } from 'zod'
import { lead, ofAssessment, staff } from './common'

const ofExemplar = z.strictObject({ courseId: Id, exemplarId: Id })

export const exemplarsRoutes = {
  tuning: route({
    method: 'GET',
    path: '/api/courses/:courseId/exemplars',
    access: staff,
    summary: 'Assessments with how many exemplars they have, and how far they are read',
    params: z.strictObject({ courseId: Id }),
    response: z.array(
      z.strictObject({
        assessmentId: Id,
        title: z.string(),
        exemplars: z.number().int(),
        /** How many of them one has not read; 0 for those who oversee. */
        unread: z.number().int(),
        /** Markers who may not begin yet; 0 for a marker. */
        held: z.number().int(),
      }),
    ),
  }),
  exemplars: route({
    method: 'GET',
    path: '/api/courses/:courseId/assessments/:assessmentId/exemplars',
    access: staff,
    summary: 'The exemplars of an assessment; what was agreed on one comes to a marker once they have read it',
    params: ofAssessment,
    response: Exemplars,
  }),
  addExemplar: route({
    method: 'POST',
    path: '/api/courses/:courseId/assessments/:assessmentId/exemplars',
    access: lead,
    summary: 'Add an exemplar with what was agreed on it',
    params: ofAssessment,
    body: ExemplarBody,
    response: z.strictObject({ id: Id }),
  }),
  editExemplar: route({
    method: 'PUT',
    path: '/api/courses/:courseId/exemplars/:exemplarId',
    access: lead,
    summary: 'Edit an exemplar; its text stays once somebody has read it',
    params: ofExemplar,
    body: ExemplarBody.extend({ version: z.number().int(), away: z.boolean() }),
  }),
  readExemplar: route({
    method: 'PUT',
    path: '/api/courses/:courseId/exemplars/:exemplarId/reading',
    access: ['lead', 'marker'],
    summary: 'Hand in one’s own reading of an exemplar, once',
    params: ofExemplar,
    body: Judged,
  }),
  setGate: route({
    method: 'PUT',
    path: '/api/courses/:courseId/assessments/:assessmentId/markers/:markerId/gate',
    access: lead,
    summary: 'Open or hold the marking of an assessment for a marker; null lets it follow from the exemplars read',
    params: ofAssessment.extend({ markerId: Id }),
    body: z.strictObject({ gate: Gate.nullable() }),
  }),
}
