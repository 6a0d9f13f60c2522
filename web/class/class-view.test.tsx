import { screen, within } from '@testing-library/react'
import { Route, Routes } from 'react-router'
import { routes, type ClassView as View } from '#contract'
import { inPage, Refuses, serverAnswers } from '../testing/in-page'
import ClassView from './ClassView'

const VIEW: View = {
  course: 'CFS 1 Maps',
  section: 'East',
  assessments: [
    { id: 'sketch', title: 'Sketch', outOf: 20, due: '2020-03-02' },
    { id: 'map', title: 'Map', outOf: 40, due: '2020-04-06' },
    { id: 'late', title: 'Later', outOf: 10, due: '2999-01-04' },
  ],
  rows: [
    { number: '7', codeName: null, cells: [12.5, 'came in', 'nothing yet'] },
    { number: '12', codeName: null, cells: ['exempt', 'nothing yet', 'nothing yet'] },
    { number: '40', codeName: null, cells: [9, 'not set', 'nothing yet'] },
  ],
}
const NAMES = ['wren', 'amber', 'opal']
const drawn: View = { ...VIEW, rows: VIEW.rows.map((r, i) => ({ ...r, codeName: NAMES[i]! })) }

function seen(view: View, draw: () => unknown = () => drawn) {
  const { sent } = serverAnswers([
    [routes.classView, () => view],
    [routes.drawCodeNames, draw],
  ])
  const page = (
    <Routes>
      <Route path="/class/:courseId/:sectionId" element={<ClassView />} />
    </Routes>
  )
  return { sent, ...inPage(page, { address: '/class/c/s' }) }
}
const people = () =>
  within(screen.getByRole('list'))
    .getAllByRole('listitem')
    .map((l) => l.textContent)

test('it opens on the work that was due last, with blanks standing out and counted', async () => {
  seen(VIEW)
  expect((await screen.findByRole<HTMLSelectElement>('combobox', { name: 'Work' })).value).toBe('map')
  expect(people()).toEqual(['7came in', '12nothing yet', '40not set'])
  expect(screen.getByText(/^No mark out yet; of 1 of 2 nothing has come in\./)).toBeTruthy()
})

test('keys step through the works; marks that are out stand with what they are out of', async () => {
  const { user } = seen(VIEW)
  await screen.findByRole('list')
  await user.keyboard('{ArrowLeft}')
  expect(people()).toEqual(['712.5 of 20', '12exempt', '409 of 20'])
  await user.keyboard('{ArrowLeft}')
  expect(people()).toEqual(['7nothing yet', '12nothing yet', '40nothing yet'])
})

test('code names are drawn when they are first asked for, and stand in their own order', async () => {
  const { user, sent } = seen(VIEW)
  await screen.findByRole('list')
  await user.keyboard('n')
  expect(await screen.findByText('amber')).toBeTruthy()
  expect(people()).toEqual(['ambernothing yet', 'opalnot set', 'wrencame in'])
  expect(sent.map((s) => s.body)).toEqual([{ anew: false }])
  await user.click(screen.getByRole('button', { name: 'Draw them anew' }))
  expect(sent.at(-1)!.body).toEqual({ anew: true })
  await user.keyboard('n')
  expect(people()[0]).toBe('7came in')
  await user.keyboard('n')
  expect(sent).toHaveLength(2)
})

test('where they cannot be drawn numbers stay, and why is said', async () => {
  const { user } = seen(VIEW, () => new Refuses(409, 'The course is put away.'))
  await user.click(await screen.findByRole('button', { name: 'code names' }))
  expect(await screen.findByText('The course is put away.')).toBeTruthy()
  expect(people()[0]).toBe('7came in')
})
