import { Id } from '../course'
import { Letter, StandIn } from '../deliveries'
import { route } from '../route'
import { z } from 'zod'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { inCourse, lead, staff } from './common'

const StandIns = z.strictObject({
  now: z.array(z.strictObject({ name: StandIn, fails: z.boolean() })),
  /** Who let one fail or work again in this course, the latest first. */
  list: z.array(z.strictObject({ name: StandIn, fails: z.boolean(), by: z.string(), at: z.iso.datetime() })),
})

export const postRoutes = {
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
    produces: MEDIA_TYPES.eml,
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
  writeToMarker: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/courses/:courseId/people/:personId/letters',
    access: lead,
    summary: 'Write to a marker of the course through the post, for instance their own line of a comparison',
    params: inCourse.extend({ personId: Id }),
    body: z.strictObject({
      subject: z.string().trim().min(1, 'Say what it is about.').max(200),
      words: z.string().trim().min(1, 'Write something first.').max(4000),
    }),
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
}
