import { Id } from '../course'
import { Collected, Deliveries, DeliveryRow, SortDelivery } from '../deliveries'
import { route } from '../route'
import { inCourse, lead, overseers } from './common'

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
  deliveryFile: route({
    method: 'GET',
    path: '/api/courses/:courseId/deliveries/:deliveryId/file',
    access: overseers,
    summary: 'The file itself',
    params: inCourse.extend({ deliveryId: Id }),
    produces: 'application/octet-stream',
  }),
}
