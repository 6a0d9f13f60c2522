import { Decision } from '../changes'
import { Id } from '../course'
import { IssueContent, IssueDifference, IssueHead, Signers } from '../issue'
import { route } from '../route'
import { z } from 'zod'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { Reason, inCourse, lead, overseers } from './common'

const number = z.coerce.number().int().min(1)
const inIssue = z.strictObject({ courseId: Id, number })
const Signing = z.strictObject({ signers: Signers })
const Sha256 = z.string().regex(/^[0-9a-f]{64}$/, 'A SHA-256 in hex.')

export const confirmRoutes = {
  issues: route({
    method: 'GET',
    path: '/api/courses/:courseId/issues',
    access: overseers,
    summary: 'The issues confirmed so far, who signed and who objects',
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
  compareIssues: route({
    method: 'GET',
    path: '/api/courses/:courseId/issues/:number/against/:to',
    access: overseers,
    summary: 'Everything in which a later issue differs from this one, or what would be frozen now',
    params: inIssue.extend({ to: z.union([z.literal('now'), number]) }),
    response: IssueDifference,
  }),
  countersign: route({
    method: 'POST',
    path: '/api/courses/:courseId/issues/:number/signatures',
    access: overseers,
    summary: 'Sign the content of the latest issue, named by its hash',
    params: inIssue,
    body: z.strictObject({ statement: Reason, hash: Sha256 }),
    response: IssueHead,
  }),
  object: route({
    method: 'POST',
    path: '/api/courses/:courseId/issues/:number/objections',
    access: overseers,
    summary: 'Object to the latest issue: while that stands, it does not count',
    params: inIssue,
    body: z.strictObject({ reason: Reason }),
    response: IssueHead,
  }),
  takeBackObjection: route({
    method: 'POST',
    path: '/api/courses/:courseId/issues/:number/objections/:objectionId/take-back',
    access: overseers,
    summary: 'Take one’s own objection back',
    params: inIssue.extend({ objectionId: Id }),
    response: IssueHead,
  }),
  signing: route({
    method: 'GET',
    path: '/api/courses/:courseId/signers',
    access: overseers,
    summary: 'Who must sign the next issue',
    params: inCourse,
    response: Signing,
  }),
  setSigning: route({
    method: 'PUT',
    path: '/api/courses/:courseId/signers',
    access: lead,
    summary: 'Say who must sign the next issue',
    params: inCourse,
    body: Signing,
    response: Signing,
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
    produces: MEDIA_TYPES.csv,
  }),
  resultsXlsx: route({
    method: 'GET',
    path: '/api/courses/:courseId/issues/:number/results.xlsx',
    access: overseers,
    summary: 'Confirmed results as a workbook, with how they came about',
    params: inIssue,
    produces: MEDIA_TYPES.xlsx,
  }),
  resultsJson: route({
    method: 'GET',
    path: '/api/courses/:courseId/issues/:number/results.json',
    access: overseers,
    summary: 'The confirmed content as canonical JSON: the hash of the issue is that of this file',
    params: inIssue,
    produces: MEDIA_TYPES.json,
  }),
}
