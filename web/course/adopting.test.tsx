import { screen, waitFor } from '@testing-library/react'
import { useState } from 'react'
import { routes } from '#contract'
import { courseHead } from '../testing/data'
import { inPage, Refuses, serverAnswers } from '../testing/in-page'
import { Adopting } from './Adopting'
import { tableKey, TrialProvider, useTrial } from './trial'

// The grades are on their way.
jest.mock('./course', () => ({ useCourseSoFar: () => ({ course: null }) }))

const heavier = { kind: 'weigh', componentId: 'exam', weight: 60 } as const
function Page() {
  const [asked, setAsked] = useState(false)
  const { changes, propose } = useTrial()
  return (
    <>
      <p>{changes.length} in trial</p>
      <button onClick={() => propose([heavier], 'weight of Exam')}>heavier</button>
      <Adopting asked={asked} onAsk={() => setAsked(true)} onClose={() => setAsked(false)} />
    </>
  )
}

test('a trial is adopted or discarded by key before it is known what it moves', async () => {
  const server = serverAnswers([
    [routes.trial, () => ({ changes: [], version: 0 })],
    [routes.keepTrial, ({ changes, version }: { changes: unknown[]; version: number }) => ({ changes, version: version + 1 })],
    [routes.adopt, () => new Promise(() => undefined)],
  ])
  const { user } = inPage(
    <TrialProvider head={courseHead('lead')}>
      <Page />
    </TrialProvider>,
  )
  await user.keyboard('{Control>}{Enter}{/Control}')
  expect(screen.queryByRole('dialog')).toBeNull()
  await user.click(screen.getByRole('button', { name: 'heavier' }))
  await user.keyboard('{Control>}{Backspace}{/Control}')
  expect(screen.getByText('0 in trial')).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'heavier' }))
  await user.keyboard('{Control>}{Enter}{/Control}')
  const why = await screen.findByLabelText('Why (kept in the record)')
  expect(screen.getByRole('dialog').textContent).toContain('1 change. It can be withdrawn')
  await waitFor(() => expect(document.activeElement).toBe(why))
  await user.keyboard('Since it is fair{Enter}')
  await waitFor(() => expect(server.sent.find((s) => s.address.endsWith('/decisions'))?.body).toMatchObject({ reason: 'Since it is fair' }))
})

test('what does not fit any more is left out alone, the rest and the reason stay, and Esc closes', async () => {
  const other = { kind: 'weigh', componentId: 'gone', weight: 40 } as const
  const server = serverAnswers([
    [routes.trial, () => ({ changes: [heavier, other], version: 1 })],
    [routes.keepTrial, ({ changes, version }: { changes: unknown[]; version: number }) => ({ changes, version: version + 1 })],
    [routes.adopt, () => new Refuses(422, 'Paper weighs 40: there is no such component.', undefined, 'changes.1')],
  ])
  const { user } = inPage(
    <TrialProvider head={courseHead('lead')}>
      <Page />
    </TrialProvider>,
  )
  await screen.findByText('2 in trial')
  await user.keyboard('{Control>}{Enter}{/Control}')
  await user.type(await screen.findByLabelText('Why (kept in the record)'), 'Since it is fair{Enter}')
  expect((await screen.findByRole('alert')).textContent).toMatch(/Paper weighs 40/)
  await user.click(screen.getByRole('button', { name: 'Leave this one out, keep the other 1' }))
  expect(screen.getByText('1 in trial')).toBeTruthy()
  await waitFor(() => expect(server.sent.at(-1)!.body).toMatchObject({ changes: [heavier] }))
  expect(document.activeElement).toBe(screen.getByLabelText('Why (kept in the record)'))
  await user.keyboard('{Enter}')
  await screen.findByRole('alert')
  await user.keyboard('{Escape}')
  expect(screen.queryByRole('dialog')).toBeNull()
  await user.keyboard('{Control>}{Enter}{/Control}')
  expect((await screen.findByLabelText<HTMLInputElement>('Why (kept in the record)')).value).toBe('Since it is fair')
})

test('what somebody decided meanwhile about the same is said, and is replaced or left as one chooses', async () => {
  const met = { courseVersion: 9, decided: [{ place: 1, words: 'Paper weighs 40; Ny', studentId: null }] }
  const paper = { kind: 'weigh', componentId: 'paper', weight: 50 } as const
  const detail = '1 of these was decided meanwhile. Replace it, or leave it as decided.'
  const server = serverAnswers([
    [routes.trial, () => ({ changes: [heavier, paper], since: [4, 5], version: 1 })],
    [routes.keepTrial, ({ changes, version }: { changes: unknown[]; version: number }) => ({ changes, version: version + 1 })],
    [routes.adopt, () => new Refuses(409, detail, met)],
  ])
  const { user } = inPage(
    <TrialProvider head={courseHead('lead')}>
      <Page />
    </TrialProvider>,
  )
  await screen.findByText('2 in trial')
  await user.keyboard('{Control>}{Enter}{/Control}')
  await user.type(await screen.findByLabelText('Why (kept in the record)'), 'Since it is fair{Enter}')
  expect((await screen.findByRole('alert')).textContent).toMatch(/decided meanwhile.*Paper weighs 40; Ny/)
  const adopted = () => server.sent.filter((s) => s.address.endsWith('/decisions')).map((s) => (s.body as { since: unknown }).since)
  expect(adopted()).toEqual([[4, 5]])
  await user.click(screen.getByRole('button', { name: 'Replace it' }))
  await screen.findByRole('alert')
  expect(adopted()).toEqual([
    [4, 5],
    [4, 9],
  ])
  await user.click(screen.getByRole('button', { name: 'Leave it as decided' }))
  expect(screen.getByText('1 in trial')).toBeTruthy()
  await waitFor(() => expect(server.sent.at(-1)!.body).toMatchObject({ changes: [heavier], since: [4] }))
})

test('what is tried after it was adopted is tried on the course as it then is, and not on what was before', async () => {
  const server = serverAnswers([
    [routes.trial, () => ({ changes: [], since: [], version: 0 })],
    [routes.keepTrial, ({ changes, version }: { changes: unknown[]; version: number }) => ({ changes, version: version + 1 })],
    [
      routes.adopt,
      ({ changes, reason }: { changes: unknown[]; reason: string }) => ({
        id: 'd',
        kind: 'weights',
        summary: 'Exam weighs 60',
        changes,
        effect: null,
        reason,
        by: 'Ines Valdry',
        at: '2026-12-01T10:00:00.000Z',
        withdrawn: null,
      }),
    ],
  ])
  const { user, queries } = inPage(
    <TrialProvider head={courseHead('lead')}>
      <Page />
    </TrialProvider>,
  )
  const adopted = () => server.sent.filter((s) => s.address.endsWith('/decisions')).map((s) => (s.body as { since: unknown }).since)
  for (const version of [7, 9]) {
    queries.setQueryData(tableKey('c'), { table: { version } })
    await user.click(screen.getByRole('button', { name: 'heavier' }))
    await user.keyboard('{Control>}{Enter}{/Control}')
    await user.type(await screen.findByLabelText('Why (kept in the record)'), 'Since it is fair{Enter}')
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
  }
  expect(adopted()).toEqual([[7], [9]])
})
