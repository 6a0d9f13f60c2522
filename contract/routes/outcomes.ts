import { z } from 'zod'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { Id } from '../course'
import { CourseOutcomes, EvidenceTyped, GroupKept, OutcomeInCourse, PeopleGroup, SharesOfCourse, TypedEvidence } from '../outcomes'
import { route } from '../route'
import { inCourse, lead, overseers } from './common'

const ofOutcome = inCourse.extend({ outcomeId: Id })

export const outcomesRoutes = {
  courseOutcomes: route({
    method: 'GET',
    path: '/api/courses/:courseId/outcomes',
    access: overseers,
    summary: 'Outcomes that the course gives evidence of, by what, and what was noted by hand',
    params: inCourse,
    response: CourseOutcomes,
  }),
  outcomeShares: route({
    method: 'GET',
    path: '/api/courses/:courseId/outcome-shares',
    access: overseers,
    summary: 'How many stand at each level of the course’s outcomes, to hold another year against',
    params: inCourse,
    response: SharesOfCourse,
  }),
  standingsRoster: route({
    method: 'GET',
    path: '/api/courses/:courseId/standings-roster.zip',
    access: overseers,
    summary: 'Standings as OneRoster 1.2 results, linked to the identifiers of their outcomes',
    params: inCourse,
    produces: MEDIA_TYPES.zip,
  }),
  setOutcome: route({
    takes: 'a little',
    method: 'PUT',
    path: '/api/courses/:courseId/outcomes/:outcomeId',
    access: lead,
    summary: 'Whether students of the course see where they stand on it, and which overall judgements count as evidence',
    params: ofOutcome,
    body: OutcomeInCourse,
  }),
  typeEvidence: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/courses/:courseId/outcomes/:outcomeId/evidence',
    access: lead,
    summary: 'Note a result by hand: a conversation, a check in class',
    params: ofOutcome,
    body: EvidenceTyped,
    response: TypedEvidence,
  }),
  takeBackEvidence: route({
    method: 'POST',
    path: '/api/courses/:courseId/outcomes/:outcomeId/evidence/:evidenceId/take-back',
    access: lead,
    summary: 'Take back what was noted by hand; it counts no more',
    params: ofOutcome.extend({ evidenceId: Id }),
  }),
  groups: route({
    method: 'GET',
    path: '/api/courses/:courseId/groups',
    access: overseers,
    summary: 'Groups of students that are kept under a name',
    params: inCourse,
    response: z.array(PeopleGroup),
  }),
  keepGroup: route({
    takes: 'a list',
    method: 'POST',
    path: '/api/courses/:courseId/groups',
    access: lead,
    summary: 'Keep students under a name',
    params: inCourse,
    body: GroupKept,
    response: PeopleGroup,
  }),
  dropGroup: route({
    method: 'DELETE',
    path: '/api/courses/:courseId/groups/:groupId',
    access: lead,
    summary: 'Drop a group; its students stay what they are',
    params: inCourse.extend({ groupId: Id }),
  }),
}
