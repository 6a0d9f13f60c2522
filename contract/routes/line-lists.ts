import { z } from 'zod'
import { Id } from '../course'
import { LineList, ListNumber, NewLineList, ToJudge, WorkToJudge } from '../line-lists'
import { route } from '../route'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { inCourse, lead, overseers, staff } from './common'

const ofList = inCourse.extend({ listId: Id })
const onList = ofList.extend({ number: z.coerce.number().pipe(ListNumber) })

export const lineListRoutes = {
  lineLists: route({
    method: 'GET',
    path: '/api/courses/:courseId/line-lists',
    access: overseers,
    summary: 'Lists that are judged at a line; what was said of whom only once they are closed',
    params: inCourse,
    response: z.array(LineList),
  }),
  makeLineList: route({
    method: 'POST',
    path: '/api/courses/:courseId/line-lists',
    access: lead,
    summary: 'Ask people to judge whether students near a line could do what its grade asks for',
    params: inCourse,
    body: NewLineList,
    response: z.strictObject({ id: Id }),
  }),
  closeLineList: route({
    method: 'POST',
    path: '/api/courses/:courseId/line-lists/:listId/close',
    access: lead,
    summary: 'Close a list: nothing more is said, and what was said is shown',
    params: ofList,
  }),
  lineListKey: route({
    method: 'GET',
    path: '/api/courses/:courseId/line-lists/:listId/numbers-of-papers.csv',
    access: lead,
    summary: 'Which number of a list stands for which student, to label work on paper by; noted on the audit list',
    params: ofList,
    produces: MEDIA_TYPES.csv,
  }),
  toJudge: route({
    method: 'GET',
    path: '/api/courses/:courseId/line-lists/to-judge',
    access: staff,
    summary: 'Open lists that one is asked to judge: numbers and one’s own words alone',
    params: inCourse,
    response: z.array(ToJudge),
  }),
  workToJudge: route({
    method: 'GET',
    path: '/api/courses/:courseId/line-lists/:listId/students/:number/works',
    access: staff,
    summary: 'What a student on a list that one judges has written, but for what one is still to read; no mark and no name',
    params: onList,
    response: WorkToJudge,
  }),
  judgeLine: route({
    method: 'PUT',
    path: '/api/courses/:courseId/line-lists/:listId/students/:number',
    access: staff,
    summary: 'Say whether a student could do what the grade asks for; null takes it back',
    params: onList,
    body: z.strictObject({ able: z.boolean().nullable() }),
  }),
}
