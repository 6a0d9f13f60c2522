import { z } from 'zod'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { route } from '../route'

/** A private address of one’s due days. */
const Address = z.strictObject({ address: z.string(), at: z.iso.datetime() })

export const calendarsRoutes = {
  calendarAddress: route({
    method: 'GET',
    path: '/api/account/calendar',
    access: 'signed in',
    summary: 'When one made a private address at which one’s own due days can be subscribed to; it is shown only when it is made',
    response: z.strictObject({ at: z.iso.datetime().nullable() }),
  }),
  renewCalendarAddress: route({
    method: 'POST',
    path: '/api/account/calendar',
    access: 'signed in',
    summary: 'Make such an address, in the place of any before it',
    response: Address,
  }),
  dropCalendarAddress: route({
    method: 'DELETE',
    path: '/api/account/calendar',
    access: 'signed in',
    summary: 'Drop it: nobody sees anything there any more',
  }),
  calendar: route({
    method: 'GET',
    path: '/api/calendars/:token/due.ics',
    access: 'anyone',
    summary: 'Due days of whoever has this private address as iCalendar: titles and days, nothing of marks',
    params: z.strictObject({ token: z.string().min(20).max(100) }),
    produces: MEDIA_TYPES.ics,
  }),
}
