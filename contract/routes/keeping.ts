import { Id } from '../course'
import { Keeping } from '../keeping'
import { TriedPackage } from '../packages'
import { route } from '../route'
import { z } from 'zod'
import { MEDIA_TYPES } from '#core/exchange/media-types'

const onePackage = z.strictObject({ packageId: z.uuid() })

export const keepingRoutes = {
  takeOutCourse: route({
    method: 'GET',
    path: '/api/courses/:courseId/package.zip',
    access: ['lead'],
    summary:
      'The course as a Data Package, as far as its lead is shown it: each of its tables as CSV with its schema, without others’ trials, readings that are still being changed, and who judged whom able',
    params: z.strictObject({ courseId: Id }),
    produces: MEDIA_TYPES.zip,
  }),
  takeOutWholeCourse: route({
    method: 'GET',
    path: '/api/installation/courses/:courseId/package.zip',
    access: 'admin',
    summary: 'All of a course as a Data Package, to move it to another installation; noted on the audit list',
    params: z.strictObject({ courseId: Id }),
    produces: MEDIA_TYPES.zip,
  }),
  tryPackage: route({
    takes: 'a package',
    method: 'POST',
    path: '/api/installation/packages',
    access: 'admin',
    summary: 'What a course taken out elsewhere would be here, in counts and people; kept for an hour, changes nothing',
    response: TriedPackage.extend({ packageId: z.string() }),
  }),
  bringInPackage: route({
    method: 'POST',
    path: '/api/installation/packages/:packageId',
    access: 'admin',
    summary: 'Bring in a course that was tried',
    params: onePackage,
    response: z.strictObject({ courseId: Id }),
  }),
  dropPackage: route({
    method: 'DELETE',
    path: '/api/installation/packages/:packageId',
    access: 'admin',
    summary: 'Leave a course that was tried out',
    params: onePackage,
  }),
  keeping: route({
    method: 'GET',
    path: '/api/installation/keeping',
    access: 'admin',
    summary: 'The backups there are, and whether the latest is too old',
    response: Keeping,
  }),
  backUp: route({
    method: 'POST',
    path: '/api/installation/keeping',
    access: 'admin',
    summary: 'Make a backup now, checked before it counts',
    response: Keeping,
  }),
}
