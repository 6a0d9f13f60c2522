import { screen } from '@testing-library/react'
import { courseHead } from '../testing/data'
import { inPage } from '../testing/in-page'
import { CourseList } from './CoursesPage'

const courses = (of: ReturnType<typeof courseHead>[]) => inPage(<CourseList courses={of} />)

test('one’s courses stand there with one’s part in each and where they stand; a student’s says nothing of the others', () => {
  const head = { title: 'Fieldwork', term: 'autumn 2026', sections: 8, students: 236 }
  courses([
    { ...courseHead('lead'), ...head, id: 'a', code: 'CFS 214', confirmedIssue: null, issueInForce: 2, awayAt: null },
    { ...courseHead('student'), ...head, id: 'b', code: 'CFS 118', confirmedIssue: 1, issueInForce: 1, awayAt: null },
  ])
  expect(screen.getByRole('link', { name: 'CFS 214 Fieldwork' }).getAttribute('href')).toBe('/courses/a')
  expect(
    screen
      .getAllByRole('row')
      .slice(1)
      .map((r) => r.textContent),
  ).toEqual([
    'CFS 214 Fieldworkautumn 2026lead236 students in 8 sectionsreopened, issue 2 counts',
    'CFS 118 Fieldworkautumn 2026studentconfirmed, issue 1',
  ])
})

test('who has no part in a course yet is told how one comes here', () => {
  courses([])
  expect(screen.getByText(/as soon as its lead adds you to it/)).toBeTruthy()
})
