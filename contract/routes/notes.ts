import { z } from 'zod'
import { Id } from '../course'
import { Note, NoteAbout } from '../notes'
import { route } from '../route'
import { inCourse, lead, overseers } from './common'

const Words = z.string().trim().min(1, 'Write something first.').max(2000, 'At most 2000 characters.')

export const notesRoutes = {
  notes: route({
    method: 'GET',
    path: '/api/courses/:courseId/notes',
    access: overseers,
    summary: 'Notes on sections, markers, scripts and decisions, with their answers, the latest first',
    params: inCourse,
    response: z.array(Note),
  }),
  leaveNote: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/courses/:courseId/notes',
    access: overseers,
    summary: 'Leave a note; it stays on the record, and no marker or student sees it',
    params: inCourse,
    body: z.strictObject({ about: NoteAbout, words: Words }),
    response: Note,
  }),
  answerNote: route({
    takes: 'a little',
    method: 'PUT',
    path: '/api/courses/:courseId/notes/:noteId/answer',
    access: lead,
    summary: 'Answer a note, once',
    params: inCourse.extend({ noteId: Id }),
    body: z.strictObject({ words: Words }),
    response: Note,
  }),
}
