import { OwnWork } from '../plan'
import { route } from '../route'
import { inCourse } from './common'

export const studentRoutes = {
  ownWork: route({
    method: 'GET',
    path: '/api/courses/:courseId/own-work',
    access: ['student'],
    summary: 'A student’s own work: due days, and marks once they are released',
    params: inCourse,
    response: OwnWork,
  }),
}
