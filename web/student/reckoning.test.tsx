import { fireEvent, screen, within } from '@testing-library/react'
import { routes, type OwnCourse, type OwnWork } from '#contract'
import { courseHead, self } from '../testing/data'
import { inPage, serverAnswers } from '../testing/in-page'
import StudentFrame from './StudentFrame'

const COURSE = courseHead('student')
const assessment = (id: string, outOf: number, componentId = id): OwnCourse['assessments'][number] => ({
  id,
  componentId,
  title: id,
  outOf,
  worth: outOf,
  counts: true,
  bonus: false,
  droppable: false,
})
const component = (id: string, weight: number) => ({ id, title: id, weight, combine: 'byWorth' as const, dropLowest: 0, bonus: false })
/** The book, 60%, is back with 12 of 20; the paper and the talk, 20% each, are open. */
const OWN: OwnCourse = {
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: { decimals: 0 }, above100: 'cap' },
  components: [component('Book', 60), component('Paper', 20), component('Talk', 20)],
  assessments: [assessment('Book', 20), assessment('Paper', 80), assessment('Talk', 10)],
  marks: [{ assessmentId: 'Book', mark: 12, status: 'in', daysLate: 0 }],
  boundaries: [
    { grade: 'Merit', from: 70 },
    { grade: 'Pass', from: 50 },
    { grade: 'Refer', from: 0 },
  ],
  conditions: [],
}
function seen(course: OwnCourse | null) {
  const answer: OwnWork = {
    name: 'Ada',
    candidate: '1',
    section: 'East',
    codeName: null,
    work: [],
    course,
    standings: [],
    result: null,
    earlier: [],
  }
  serverAnswers([[routes.ownWork, () => answer]])
  return inPage(<StudentFrame me={self('ada', 'Ada') as never} courses={[COURSE]} head={COURSE} />)
}
const mark = (title: string) => screen.getByRole<HTMLInputElement>('textbox', { name: `Mark in ${title}` }).value
const said = () =>
  screen
    .getAllByRole('status')
    .map((s) => s.textContent)
    .find((t) => t.includes('course') || t.includes('reach'))
const toNeeds = async () => {
  const page = seen(OWN)
  await page.user.click(await screen.findByRole('button', { name: 'What would I need for Merit?' }))
  await screen.findByRole('slider', { name: 'Paper' })
  return page
}

test('where one stands is a span on the line of grades, with how much of the course is back', async () => {
  seen(OWN)
  const so = await screen.findByRole('region', { name: 'The course so far' })
  expect(so.textContent).toMatch(/^You stand at 60.0 so far60% of the course is back. With what is open it ends between 36 and 76./)
  expect(within(so).getByRole('img').getAttribute('aria-label')).toBe(
    'So far 60, ends between 36 and 76; Pass begins at 50, Merit begins at 70',
  )
})

test('where the lead does not show it there is nothing of it; with nothing back that is said', async () => {
  const { queries } = seen(null)
  await screen.findByText(/Nothing is set for you yet/)
  expect(screen.queryByText(/You stand at/)).toBeNull()
  queries.clear()
  seen({ ...OWN, marks: [] })
  expect(await screen.findByText(/Nothing that counts is back yet/)).toBeTruthy()
})

// 36 of the book; 33.5 more make 69.5, which is rounded to 70: in halves 66 of 80 (16.5) and 8.5 of 10 (17).
test('what is needed is alike in all that is open, and one that is pulled is held while the others follow', async () => {
  const { user } = await toNeeds()
  expect([mark('Paper'), mark('Talk')]).toEqual(['66', '8.5'])
  expect(said()).toBe('So the course would end at 70: Merit. One mark less in Paper, and it is 69: Pass.')
  fireEvent.change(screen.getByRole('slider', { name: 'Talk' }), { target: { value: '10' } })
  expect([mark('Paper'), mark('Talk')]).toEqual(['54', '10'])
  expect(screen.getByRole('slider', { name: 'Paper' }).getAttribute('aria-valuetext')).toBe('54 of 80, follows')
  await user.click(screen.getByRole('button', { name: 'Let Talk follow again' }))
  expect(mark('Paper')).toBe('66')
})

test('what is out of reach is said, with what full marks would make; another grade can be asked for', async () => {
  const { user } = await toNeeds()
  const talk = screen.getByRole('textbox', { name: 'Mark in Talk' })
  await user.clear(talk)
  await user.type(talk, '2{Enter}')
  expect(said()).toBe('Merit is out of reach with that: full marks in the rest would make 60, Pass.')
  await user.selectOptions(screen.getByRole('combobox', { name: 'Grade' }), 'Pass')
  expect(mark('Paper')).toBe('38')
  await user.click(screen.getByRole('button', { name: 'Start over' }))
  expect(screen.queryByRole('button', { name: 'Start over' })).toBeNull()
})

test('the way back leads to where one came from', async () => {
  const { user } = await toNeeds()
  expect(document.activeElement?.textContent).toMatch(/What would I need for/)
  await user.click(screen.getByRole('button', { name: '‹ all work' }))
  expect(document.activeElement?.textContent).toBe('What would I need for Merit?')
})
