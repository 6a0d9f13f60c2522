import { randomUUID } from 'node:crypto'
import { MOST_IDEAS, routes, type IdeaStop } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import { ideaQueries } from './queries'

/** Ideas of a course; none of them changes a figure, so the course's version stays. Whether they fit is asked where one is adopted. */
export function ideaRoutes(handle: Handle, db: Db): void {
  const ideas = ideaQueries(db)

  handle(routes.ideas, ({ params }) => ideas.all(params.courseId))

  handle(routes.keepIdea, ({ params: { courseId }, body: { stop, name, changes }, me }) => {
    if (ideas.count(courseId, stop) >= MOST_IDEAS)
      throw new HttpProblem(409, `${MOST_IDEAS} ideas are kept already: drop one, and there is room for this.`)
    requireFree(courseId, stop, name)
    const id = randomUUID()
    ideas.keep({ id, courseId, stop, name, changes, byId: me.id })
    return ideas.one(courseId, id)!
  })

  handle(routes.nameIdea, ({ params: { courseId, ideaId }, body: { name } }) => {
    const idea = ideas.one(courseId, ideaId)
    if (!idea) throw new HttpProblem(404, 'There is no such idea (any more).')
    if (idea.name !== name) requireFree(courseId, idea.stop, name)
    ideas.rename(ideaId, name)
    return ideas.one(courseId, ideaId)!
  })

  handle(routes.dropIdea, ({ params: { courseId, ideaId } }) => {
    if (!ideas.drop(courseId, ideaId)) throw new HttpProblem(404, 'There is no such idea (any more).')
    return undefined
  })

  function requireFree(courseId: string, stop: IdeaStop, name: string): void {
    if (ideas.isNamed(courseId, stop, name)) throw new HttpProblem(409, `There is an idea called ${name} already.`, { field: 'name' })
  }
}
