import { z } from 'zod'
import { Id } from './course'
import { Collected, Deliveries, DeliveryRow, Letter, SortDelivery, StandIn } from './deliveries'
import { route } from './route'

const inCourse = z.strictObject({ courseId: Id })
const lead = ['lead'] as const
const overseers = ['lead', 'external'] as const
const staff = ['lead', 'marker', 'external'] as const

const StandIns = z.strictObject({
  now: z.array(z.strictObject({ name: StandIn, fails: z.boolean() })),
  /** Who let one fail or work again in this course, the latest first. */
  list: z.array(z.strictObject({ name: StandIn, fails: z.boolean(), by: z.string(), at: z.iso.datetime() })),
})

/** Routes of the stand-ins: the submission box, and the post. */
export const deliveryRoutes = {
  deliveries: route({
    method: 'GET',
    path: '/api/courses/:courseId/deliveries',
    access: overseers,
    summary: 'What came through the submission box, and what waits to be sorted',
    params: inCourse,
    response: Deliveries,
  }),
  collect: route({
    method: 'POST',
    path: '/api/courses/:courseId/deliveries/collect',
    access: lead,
    summary: 'Collect what lies in the submission box; what was collected before is left alone',
    params: inCourse,
    response: Collected,
  }),
  sortDelivery: route({
    method: 'PUT',
    path: '/api/courses/:courseId/deliveries/:deliveryId',
    access: lead,
    summary: 'Say where something belongs that waits, or set it aside',
    params: inCourse.extend({ deliveryId: Id }),
    body: SortDelivery,
    response: DeliveryRow,
  }),
  deliveryFile: route({
    method: 'GET',
    path: '/api/courses/:courseId/deliveries/:deliveryId/file',
    access: overseers,
    summary: 'The file itself',
    params: inCourse.extend({ deliveryId: Id }),
    produces: 'application/octet-stream',
  }),
  attemptFile: route({
    method: 'GET',
    path: '/api/courses/:courseId/assessments/:assessmentId/pile/:studentId/attempts/:attempt',
    access: staff,
    summary: 'The PDF of an attempt at a script; for a marker, of a script of their own pile',
    params: z.strictObject({ courseId: Id, assessmentId: Id, studentId: Id, attempt: z.coerce.number().int().min(1) }),
    produces: 'application/pdf',
  }),

  letters: route({
    method: 'GET',
    path: '/api/courses/:courseId/letters',
    access: staff,
    summary: 'The post: all of the course for those who oversee it, one’s own for a marker',
    params: inCourse,
    response: z.array(Letter),
  }),
  letterFile: route({
    method: 'GET',
    path: '/api/courses/:courseId/letters/:letterId/letter.eml',
    access: staff,
    summary: 'A message as it was sent (RFC 5322)',
    params: inCourse.extend({ letterId: Id }),
    produces: 'message/rfc822',
  }),
  remind: route({
    method: 'POST',
    path: '/api/courses/:courseId/assessments/:assessmentId/reminders',
    access: lead,
    summary: 'Remind markers of what is left of their pile, through the post',
    params: inCourse.extend({ assessmentId: Id }),
    body: z.strictObject({ markerIds: z.array(Id).min(1, 'Choose whom to remind.').max(500), words: z.string().trim().max(2000) }),
    response: z.strictObject({ sent: z.number().int() }),
  }),

  standIns: route({
    method: 'GET',
    path: '/api/courses/:courseId/stand-ins',
    access: lead,
    summary: 'The simulated outside services, and whether each is made to fail',
    params: inCourse,
    response: StandIns,
  }),
  installedStandIns: route({
    method: 'GET',
    path: '/api/installation/courses/:courseId/stand-ins',
    access: 'admin',
    summary: 'The same, for whoever administers',
    params: inCourse,
    response: StandIns,
  }),
  setStandIn: route({
    method: 'PUT',
    path: '/api/installation/courses/:courseId/stand-ins/:name',
    access: 'admin',
    summary: 'Make a simulated service fail, to see what happens then, or work again',
    params: inCourse.extend({ name: StandIn }),
    body: z.strictObject({ fails: z.boolean() }),
  }),
} as const
