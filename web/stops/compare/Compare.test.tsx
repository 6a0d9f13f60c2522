import { screen, within } from '@testing-library/react'
import { inPage } from '../../testing/in-page'
import { smallCourse, smallFigures, smallTable } from '../../testing/small-course'
import Compare from './Compare'

const TABLE = smallTable([
  ['ada', 'paper', 30],
  ['bo', 'paper', 12],
  ['cy', 'paper', 20],
  ['di', 'paper', null],
  ['ada', 'essay', 10],
])
let table = TABLE
jest.mock('../../course/course', () => ({
  useFigures: (name: 'compare', of: string | null) => smallFigures(table)(name, of),
  useCourse: () => smallCourse(table),
  useDecidedCourse: () => smallCourse(table),
}))
// The charts are looked at in a real browser.
jest.mock('recharts', () => ({ ResponsiveContainer: () => null }))
beforeEach(() => (table = TABLE))

const row = (name: string) => screen.getByRole('row', { name: new RegExp(`^${name}`) })

test('every section stands with what is marked, passed and open; the one that leans farthest is looked at first', () => {
  inPage(<Compare />, { address: '/courses/c/compare?of=paper' })
  expect(within(row('East')).getByText('1 of 2')).toBeTruthy()
  expect(
    within(row('West'))
      .getAllByRole('cell')
      .map((c) => c.textContent)
      .slice(2, 4),
  ).toEqual(['1', '20.0'])
  expect(screen.getByRole('heading', { name: /below the pass mark of 16/ })).toBeTruthy()
  expect(screen.getByRole('link', { name: 'bo' }).getAttribute('href')).toBe('/courses/c/students/bo')
})

test('arrows go through the sections, brackets through what is compared', async () => {
  const { user } = inPage(<Compare />, { address: '/courses/c/compare?of=paper' })
  await user.keyboard('{ArrowDown}')
  expect(row('West').getAttribute('aria-selected')).toBe('true')
  await user.keyboard(']')
  expect(screen.getByLabelText<HTMLSelectElement>('What is shown').selectedOptions[0]!.textContent).toBe('essay')
  await user.selectOptions(screen.getByLabelText('What is shown'), 'the course')
  expect(screen.getByLabelText<HTMLSelectElement>('What is shown').value).toBe('course')
})

test('without a mark it is said what will be here', () => {
  table = smallTable([])
  inPage(<Compare />)
  expect(screen.getByText(/There are no marks yet/)).toBeTruthy()
})
