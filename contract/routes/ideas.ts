import { z } from 'zod'
import { Change } from '../changes'
import { Id } from '../course'
import { Idea, IdeaName, IdeaStop } from '../ideas'
import { route } from '../route'
import { inCourse, lead, overseers } from './common'

export const ideasRoutes = {
  ideas: route({
    method: 'GET',
    path: '/api/courses/:courseId/ideas',
    access: overseers,
    summary: 'Ideas kept beside each other at Rescale and Bound',
    params: inCourse,
    response: z.array(Idea),
  }),
  keepIdea: route({
    takes: 'a list',
    method: 'POST',
    path: '/api/courses/:courseId/ideas',
    access: lead,
    summary: 'Keep a set of changes as an idea; nothing comes into force by it',
    params: inCourse,
    body: z.strictObject({ stop: IdeaStop, name: IdeaName, changes: z.array(Change).min(1, 'An idea needs a change.').max(20_000) }),
    response: Idea,
  }),
  nameIdea: route({
    takes: 'a little',
    method: 'PUT',
    path: '/api/courses/:courseId/ideas/:ideaId/name',
    access: lead,
    summary: 'Give an idea another name',
    params: inCourse.extend({ ideaId: Id }),
    body: z.strictObject({ name: IdeaName }),
    response: Idea,
  }),
  dropIdea: route({
    method: 'DELETE',
    path: '/api/courses/:courseId/ideas/:ideaId',
    access: lead,
    summary: 'Drop an idea; what was tried or adopted of it stays',
    params: inCourse.extend({ ideaId: Id }),
  }),
}
