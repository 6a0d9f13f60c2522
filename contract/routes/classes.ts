import { z } from 'zod'
import { ClassView, CodeName } from '../class-view'
import { Id } from '../course'
import { route } from '../route'
import { inCourse, staff } from './common'

const ofSection = inCourse.extend({ sectionId: Id })

export const classesRoutes = {
  classView: route({
    method: 'GET',
    path: '/api/courses/:courseId/sections/:sectionId/class',
    access: staff,
    summary: 'A section’s work by numbers and code names, for a class to look at; a marker’s own sections only',
    params: ofSection,
    response: ClassView,
  }),
  drawCodeNames: route({
    takes: 'a little',
    method: 'POST',
    path: '/api/courses/:courseId/sections/:sectionId/class/code-names',
    access: ['lead', 'marker'],
    summary: 'Give everybody of a section a code name who has none, or everybody a new one; a marker’s own sections only',
    params: ofSection,
    body: z.strictObject({ anew: z.boolean() }),
    response: ClassView,
  }),
  chooseCodeName: route({
    takes: 'a little',
    method: 'PUT',
    path: '/api/courses/:courseId/own-work/code-name',
    access: ['student'],
    summary: 'Choose one’s own code name',
    params: inCourse,
    body: z.strictObject({ name: CodeName }),
  }),
}
