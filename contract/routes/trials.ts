import { Change, Decision, Recounted } from '../changes'
import { Id } from '../course'
import { TablePlan } from '../table-in-columns'
import { route } from '../route'
import { z } from 'zod'
import { Reason, inCourse, lead, overseers } from './common'

/** A trial as it is kept; version 0 where none ever was. */
export const KeptTrial = z.strictObject({
  changes: z.array(Change).max(20_000),
  /** By change, the version of the course that it was tried on; null where nobody knows. */
  since: z.array(z.number().int().min(0).nullable()).max(20_000).optional(),
  version: z.number().int().min(0),
})
export type KeptTrial = z.infer<typeof KeptTrial>

/** What was decided by others since it was tried, by the place of the change; sent with a refusal, so that one can replace it or leave it. */
export const DecidedMeanwhile = z.strictObject({
  /** The version of the course by now. */
  courseVersion: z.number().int(),
  decided: z.array(z.strictObject({ place: z.number().int(), words: z.string(), studentId: Id.nullable() })).min(1),
})
export type DecidedMeanwhile = z.infer<typeof DecidedMeanwhile>

export const trialsRoutes = {
  trial: route({
    method: 'GET',
    path: '/api/courses/:courseId/trial',
    access: lead,
    summary: 'The open trial',
    params: inCourse,
    response: KeptTrial,
  }),
  keepTrial: route({
    takes: 'a list',
    method: 'PUT',
    path: '/api/courses/:courseId/trial',
    access: lead,
    summary: 'Keep the open trial, in place of the version that one knows of; an empty one is discarded',
    params: inCourse,
    body: KeptTrial,
    response: KeptTrial,
  }),
  adopt: route({
    takes: 'a list',
    method: 'POST',
    path: '/api/courses/:courseId/decisions',
    access: lead,
    summary: 'Adopt changes as one decision',
    params: inCourse,
    body: z.strictObject({
      changes: z.array(Change).min(1).max(20_000),
      /** As in the trial: what was decided since then about the same is not replaced unseen. */
      since: z.array(z.number().int().min(0).nullable()).max(20_000).optional(),
      reason: Reason,
      /** The version of the open trial that it was; without it the trial stays as it is. */
      trialVersion: z.number().int().min(0).optional(),
    }),
    response: Decision,
  }),
  recount: route({
    method: 'POST',
    path: '/api/courses/:courseId/assessments/:assessmentId/recount',
    access: lead,
    summary: 'What the readings of an assessment come to without some criteria, or with these given to all in full; changes nothing',
    params: z.strictObject({ courseId: Id, assessmentId: Id }),
    body: z.strictObject({ how: z.enum(['without', 'grant']), criterionIds: z.array(Id).min(1).max(50) }),
    response: Recounted,
  }),
  record: route({
    method: 'GET',
    path: '/api/courses/:courseId/decisions',
    access: overseers,
    summary: 'The record: all decisions, the latest first',
    params: inCourse,
    response: z.array(Decision),
  }),
  withoutDecision: route({
    method: 'GET',
    path: '/api/courses/:courseId/decisions/:decisionId/without',
    access: overseers,
    summary: 'The course without a decision, but for its scripts and readings; null where the decision changed those. Changes nothing',
    params: z.strictObject({ courseId: Id, decisionId: Id }),
    response: TablePlan.nullable(),
  }),
  withdraw: route({
    method: 'POST',
    path: '/api/courses/:courseId/decisions/:decisionId/withdraw',
    access: lead,
    summary: 'Withdraw a decision',
    params: z.strictObject({ courseId: Id, decisionId: Id }),
    body: z.strictObject({ reason: Reason }),
    response: Decision,
  }),
}
