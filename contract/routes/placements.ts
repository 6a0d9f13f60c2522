import { Id } from '../course'
import { PlacementWrite } from '../plan'
import { route } from '../route'
import { z } from 'zod'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { inCourse, lead, staff } from './common'

const AcceptReason = z.string().trim().min(1, 'Say why it may stand.').max(500, 'At most 500 characters.')

const FindingKey = z.string().min(1).max(400)

export const placementsRoutes = {
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
    produces: MEDIA_TYPES.ics,
  }),
  personCalendar: route({
    method: 'GET',
    path: '/api/courses/:courseId/people/:personId/due.ics',
    access: staff,
    summary: 'Due days of the sections a person teaches as iCalendar; a marker’s own only',
    params: z.strictObject({ courseId: Id, personId: Id }),
    produces: MEDIA_TYPES.ics,
  }),
}
