import { z } from 'zod'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { RecordsState, RecordsSending, ResultRelease, ToRecords } from '../records'
import { Id } from '../course'
import { route } from '../route'
import { inCourse, lead, overseers } from './common'

export const recordsRoutes = {
  releases: route({
    method: 'GET',
    path: '/api/courses/:courseId/result-releases',
    access: overseers,
    summary: 'From which day the students of each section see the results in force',
    params: inCourse,
    response: z.array(ResultRelease),
  }),
  release: route({
    method: 'PUT',
    path: '/api/courses/:courseId/result-releases',
    access: lead,
    summary: 'Release the results in force to the students of sections, today or from a day; their students get a letter',
    params: inCourse,
    body: z.strictObject({ sectionIds: z.array(Id).min(1, 'Choose a section.').max(1000), onDay: z.iso.date().nullable() }),
    response: z.array(ResultRelease),
  }),
  recordsState: route({
    method: 'GET',
    path: '/api/courses/:courseId/hand-overs',
    access: overseers,
    summary: 'What the records office was sent of the issue in force, what it took and what it refused',
    params: inCourse,
    response: RecordsState,
  }),
  sendToRecords: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/courses/:courseId/hand-overs',
    access: lead,
    summary: 'Hand the issue in force over to the records office, or only rows that were mended; under the same key nothing is sent twice',
    params: inCourse,
    body: ToRecords,
    response: RecordsSending,
  }),
  withdrawFromRecords: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/courses/:courseId/hand-overs/:handOverId/withdrawn',
    access: lead,
    summary: 'Have the records office take a result out again that it took under a wrong number; it is sent anew like one that was refused',
    params: inCourse.extend({ handOverId: Id }),
    body: z.strictObject({ studentId: Id }),
    response: RecordsSending,
  }),
  oneRoster: route({
    method: 'GET',
    path: '/api/courses/:courseId/issues/:number/one-roster.zip',
    access: overseers,
    summary: 'The results of an issue as OneRoster 1.2 CSV: categories, line items, results',
    params: inCourse.extend({ number: z.coerce.number().int().min(1) }),
    produces: MEDIA_TYPES.zip,
  }),
  recordsFile: route({
    method: 'GET',
    path: '/api/courses/:courseId/issues/:number/for-records.csv',
    access: overseers,
    summary: 'The results of an issue as a records office takes them in: by number, without names',
    params: inCourse.extend({ number: z.coerce.number().int().min(1) }),
    produces: MEDIA_TYPES.csv,
  }),
}
