import { screen, within } from '@testing-library/react'
import { Route, Routes } from 'react-router'
import { routes } from '#contract'
import { scriptDetail } from '../../testing/data'
import { inPage, serverAnswers } from '../../testing/in-page'
import { smallCourse, smallFigures, smallTable } from '../../testing/small-course'
import Student from './Student'

const TABLE = smallTable(
  [
    ['ada', 'paper', 30],
    ['ada', 'essay', 10],
    ['bo', 'paper', 20],
  ],
  [],
  { leftOut: { essay: ['bo'] } },
)
let table = TABLE
beforeEach(() => (table = TABLE))
jest.mock('../../course/course', () => ({
  useFigures: (name: 'student', studentId: string, what: Record<string, number>) => smallFigures(table)(name, studentId, what),
  useCourse: () => smallCourse(table),
  useDecidedCourse: () => smallCourse(table),
}))

const open = (studentId: string) => {
  serverAnswers([
    [routes.library, () => ({ rubrics: [], schemes: [], scales: [], outcomes: [] })],
    [routes.script, () => scriptDetail('s')],
  ])
  return inPage(
    <Routes>
      <Route path="/courses/c/students/:studentId" element={<Student />} />
    </Routes>,
    { address: `/courses/c/students/${studentId}` },
  )
}

test('why this grade stands from mark to course, and what if leaves the record as it is', async () => {
  const { user } = open('ada')
  expect(screen.getByText(/Unrounded 62.5/)).toBeTruthy()
  const field = screen.getByLabelText('What if essay')
  await user.type(field, '20{Enter}')
  expect(screen.getByText(/62.5 would be 87.5/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: /Drop the what if/ }))
  expect(screen.queryByText(/would be 87.5/)).toBeNull()
})

test('a mark opens down to where it comes from', async () => {
  const { user } = open('ada')
  await user.click(screen.getByRole('button', { name: 'paper' }))
  const chain = (await screen.findByText(/As marked:/)).closest('li')!
  expect(chain.textContent).toBe('As marked: 30 of 40, typed in or brought in from a file')
})

test('what one is left out of says so and takes nothing away', () => {
  open('bo')
  expect(within(screen.getByRole('row', { name: /^essay/ })).getByText('left out')).toBeTruthy()
  expect(screen.getByText(/Unrounded 50\./)).toBeTruthy()
})

test('somebody who is not in the course is not made up', () => {
  open('nobody')
  expect(screen.getByText(/There is no such student in this course/)).toBeTruthy()
})

test('what if is rescaled as the mark is, and stays as late as the work came', async () => {
  const adjustment = {
    id: 'x',
    assessmentId: 'paper',
    outOf: 40,
    method: { kind: 'add' as const, by: 4 },
    sectionIds: null,
    on: true,
    neverLower: false,
    above: 'keep within' as const,
    step: null,
  }
  const late = smallTable([
    ['ada', 'paper', 30, 'late'],
    ['ada', 'essay', 10],
  ])
  table = { ...late, adjustments: [adjustment], policy: { ...late.policy, late: { kind: 'cap', percent: 50 } } }
  const { user } = open('ada')
  // 34 of 40 is capped at 20: with 10 of 20 that is 50.
  expect(screen.getByText(/marked 30, rescaled/)).toBeTruthy()
  expect(screen.getByText(/Unrounded 50\./)).toBeTruthy()
  await user.type(screen.getByLabelText('What if paper'), '12{Enter}')
  // 12 becomes 16 of 40, under the cap.
  expect(screen.getByText(/50 would be 45/)).toBeTruthy()
})
