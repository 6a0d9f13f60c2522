import { Id } from '../course'
import { Collected, Deliveries, DeliveryRow, HandedIn, Receipt, SortDelivery } from '../deliveries'
import { route } from '../route'
import { inCourse, lead, ofAssessment, overseers } from './common'

export const deliveriesRoutes = {
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
  handIn: route({
    takes: 'a file',
    method: 'POST',
    path: '/api/courses/:courseId/own-work/:assessmentId/attempts',
    access: ['student'],
    summary: 'Hand in one’s own work as text or PDF, where the assessment takes it here; answered with a receipt',
    params: ofAssessment,
    body: HandedIn,
    response: Receipt,
  }),
  deliveryFile: route({
    method: 'GET',
    path: '/api/courses/:courseId/deliveries/:deliveryId/file',
    access: overseers,
    summary: 'The file itself',
    params: inCourse.extend({ deliveryId: Id }),
    produces: 'application/octet-stream',
  }),
}
