import { randomUUID } from 'node:crypto'
import { routes } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import { noteQueries } from './queries'

/** Notes of those who oversee a course, and the lead's answers; neither changes a figure, so the course's version stays. */
export function noteRoutes(handle: Handle, db: Db): void {
  const notes = noteQueries(db)

  handle(routes.notes, ({ params }) => notes.all(params.courseId))

  handle(routes.leaveNote, ({ params: { courseId }, body: { about, words }, me }) => {
    if (!notes.isThere(courseId, about)) throw new HttpProblem(404, 'What the note is about is not there (any more).')
    const id = randomUUID()
    notes.leave({ id, courseId, about, words, by: me.id })
    return notes.one(courseId, id)!
  })

  handle(routes.answerNote, ({ params: { courseId, noteId }, body: { words }, me }) => {
    const note = notes.one(courseId, noteId)
    if (!note) throw new HttpProblem(404, 'There is no such note.')
    if (note.answer) throw new HttpProblem(409, `${note.answer.by} has answered it already.`)
    notes.answer(noteId, words, me.id)
    return notes.one(courseId, noteId)!
  })
}
