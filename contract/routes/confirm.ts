import { Decision } from '../changes'
import { Id } from '../course'
import { IssueContent, IssueHead } from '../issue'
import { route } from '../route'
import { z } from 'zod'
import { Reason, inCourse, lead, overseers } from './common'

const inIssue = z.strictObject({ courseId: Id, number: z.coerce.number().int().min(1) })

export const confirmRoutes = {
  issues: route({
    method: 'GET',
    path: '/api/courses/:courseId/issues',
    access: overseers,
    summary: 'The issues confirmed so far',
    params: inCourse,
    response: z.array(IssueHead),
  }),
  confirm: route({
    method: 'POST',
    path: '/api/courses/:courseId/issues',
    access: lead,
    summary: 'Sign and freeze the results as the next issue',
    params: inCourse,
    body: z.strictObject({ statement: Reason }),
    response: IssueHead,
  }),
  issue: route({
    method: 'GET',
    path: '/api/courses/:courseId/issues/:number',
    access: overseers,
    summary: 'A frozen issue',
    params: inIssue,
    response: IssueContent,
  }),
  countersign: route({
    method: 'POST',
    path: '/api/courses/:courseId/issues/:number/signatures',
    access: overseers,
    summary: 'Add the second signature to the issue in force',
    params: inIssue,
    body: z.strictObject({ statement: Reason }),
    response: IssueHead,
  }),
  reopen: route({
    method: 'POST',
    path: '/api/courses/:courseId/reopen',
    access: lead,
    summary: 'Reopen a confirmed course; the next confirmation makes the next issue',
    params: inCourse,
    body: z.strictObject({ reason: Reason }),
    response: Decision,
  }),
  resultsCsv: route({
    method: 'GET',
    path: '/api/courses/:courseId/issues/:number/results.csv',
    access: overseers,
    summary: 'Confirmed results as CSV',
    params: inIssue,
    produces: 'text/csv',
  }),
  resultsXlsx: route({
    method: 'GET',
    path: '/api/courses/:courseId/issues/:number/results.xlsx',
    access: overseers,
    summary: 'Confirmed results as a workbook',
    params: inIssue,
    produces: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  }),
}
