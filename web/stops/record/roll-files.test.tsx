import { screen, waitFor } from '@testing-library/react'
import { routes, type RollFileKept } from '#contract'
import { inPage, Refuses, serverAnswers } from '../../testing/in-page'
import { RollFiles } from './RollFiles'

let mayDecide = true
const refresh = jest.fn(async () => undefined)
jest.mock('../../course/course', () => ({ useDecidedCourse: () => ({ mayDecide, refresh }) }))

const file = (id: string, more: Partial<RollFileKept> = {}): RollFileKept => ({
  id,
  name: `${id}.csv`,
  summary: '2 added, 1 moved',
  by: 'Ola Quist',
  at: '2026-11-24T09:00:00.000Z',
  undone: null,
  ...more,
})
const start = (files: RollFileKept[], answer: unknown = files) => {
  const server = serverAnswers([
    [routes.rollFiles, () => files],
    [routes.undoRollFile, () => answer],
  ])
  return { server, ...inPage(<RollFiles courseId="c" />) }
}
beforeEach(() => {
  mayDecide = true
  refresh.mockClear()
})

test('each says what it did and who brought it in; undone, by whom, and not offered again', async () => {
  start([file('late', { undone: { by: 'Ines Valdry', at: '2026-11-25T10:00:00.000Z' } }), file('first')])
  expect(await screen.findByRole('row', { name: /late\.csv 2 added, 1 moved Ola Quist undone by Ines Valdry/ })).toBeTruthy()
  expect(
    screen
      .getAllByRole('button')
      .map((b) => b.getAttribute('aria-label'))
      .filter((l) => l?.startsWith('Undo ')),
  ).toEqual(['Undo first.csv'])
})

test('undone, the course is fetched anew', async () => {
  const { user, server } = start([file('first')])
  await user.click(await screen.findByRole('button', { name: 'Undo first.csv' }))
  await waitFor(() => expect(refresh).toHaveBeenCalledTimes(1))
  expect(server.sent.map((s) => [s.method, s.address])).toEqual([['POST', '/api/courses/c/roll-files/first/undo']])
})

test('refused, the reason stands there and nothing is fetched', async () => {
  const { user } = start([file('first')], new Refuses(409, 'Changed since the file came in: Wim Sorrel. Nothing was undone.'))
  await user.click(await screen.findByRole('button', { name: 'Undo first.csv' }))
  expect((await screen.findByRole('alert')).textContent).toMatch(/^Changed since the file came in: Wim Sorrel/)
  expect(refresh).not.toHaveBeenCalled()
})

test('who may not decide sees them, and cannot undo', async () => {
  mayDecide = false
  start([file('first')])
  expect(await screen.findByText('first.csv')).toBeTruthy()
  expect(screen.queryByRole('button', { name: 'Undo first.csv' })).toBeNull()
})
