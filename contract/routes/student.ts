import { z } from 'zod'
import { Id } from '../course'
import { OwnWork } from '../own-work'
import { Answer, AskQuestion, Question } from '../questions'
import { route } from '../route'
import { StudentView, StudentViewChange } from '../student-view'
import { inCourse, lead, staff } from './common'

export const studentRoutes = {
  ownWork: route({
    method: 'GET',
    path: '/api/courses/:courseId/own-work',
    access: ['student'],
    summary: 'A student’s own work: due days, and marks once they are released',
    params: inCourse,
    response: OwnWork,
  }),
  ask: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/courses/:courseId/own-work/questions',
    access: ['student'],
    summary: 'Ask about a released mark of one’s own, within the days that the lead gives',
    params: inCourse,
    body: AskQuestion,
  }),
  questions: route({
    method: 'GET',
    path: '/api/courses/:courseId/questions',
    access: staff,
    summary: 'What students asked about marks: everybody’s, or of the sections that a marker teaches',
    params: inCourse,
    response: z.array(Question),
  }),
  answerQuestion: route({
    takes: 'a little',
    method: 'PUT',
    path: '/api/courses/:courseId/questions/:questionId/answer',
    access: ['lead', 'marker'],
    summary: 'Answer what a student asked; it changes no mark',
    params: inCourse.extend({ questionId: Id }),
    body: Answer,
  }),
  studentView: route({
    method: 'GET',
    path: '/api/courses/:courseId/student-view',
    access: staff,
    summary: 'What students see beyond their released marks, and what they may do',
    params: inCourse,
    response: StudentView,
  }),
  setStudentView: route({
    takes: 'a little',
    method: 'PATCH',
    path: '/api/courses/:courseId/student-view',
    access: lead,
    summary: 'Set one thing of what students see and may do',
    params: inCourse,
    body: StudentViewChange,
    response: StudentView,
  }),
}
