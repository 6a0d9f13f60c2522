import { screen } from '@testing-library/react'
import { routes, type InstalledCourse } from '#contract'
import { inPage, serverAnswers } from '../testing/in-page'
import { Nameless } from './Nameless'

const course = (more: Partial<InstalledCourse>) =>
  ({ id: 'c', code: 'HYD 1', awayAt: '2020-01-01T00:00:00.000Z', namelessAt: null, namelessFrom: '2021-01-01', ...more }) as InstalledCourse
const COUNTS = {
  students: 40,
  works: 3,
  deliveries: 1,
  remarks: 12,
  rolls: 1,
  letters: 5,
  sent: 1,
  reasons: ['Asked by Maro Quill', 'The river was high'],
}

test('what will be erased is counted before anything is; leaving it erases nothing', async () => {
  const server = serverAnswers([
    [routes.countNames, () => COUNTS],
    [routes.makeNameless, () => COUNTS],
  ])
  const { user } = inPage(<Nameless course={course({})} />)
  await user.click(screen.getByRole('button', { name: 'Make it nameless…' }))
  expect(await screen.findByText(/^40 students: name/)).toBeTruthy()
  expect(screen.getByText('3 texts and 1 file that were handed in')).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Leave them' }))
  expect(server.sent).toEqual([])
  await user.click(screen.getByRole('button', { name: 'Make it nameless…' }))
  // A reason that names nobody after all stays.
  await user.click(await screen.findByRole('checkbox', { name: 'The river was high' }))
  await user.click(screen.getByRole('button', { name: 'Erase them' }))
  expect(await screen.findByRole('button', { name: 'Make it nameless…' })).toBeTruthy()
  expect(server.sent).toMatchObject([
    { method: 'DELETE', address: '/api/installation/courses/c/names', body: { reasons: ['Asked by Maro Quill'] } },
  ])
})

test('before its time it says when; afterwards since when', () => {
  serverAnswers([])
  const { show } = inPage(<Nameless course={course({ namelessFrom: '2999-03-01' })} />)
  expect(screen.getByText('It can be made nameless from 1 Mar 2999 on.')).toBeTruthy()
  show(<Nameless course={course({ namelessAt: '2026-02-03T10:00:00.000Z' })} />)
  expect(screen.getByText(/^Nameless since 3 Feb 2026/)).toBeTruthy()
})
