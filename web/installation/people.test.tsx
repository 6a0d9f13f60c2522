import { screen, waitFor, within } from '@testing-library/react'
import { routes, type ListedPerson } from '#contract'
import { self } from '../testing/data'
import { inPage, Refuses, serverAnswers } from '../testing/in-page'
import { AuditPart } from './AuditPart'
import { PeoplePart } from './PeoplePart'

const person = (id: string, name: string, more: Partial<ListedPerson> = {}): ListedPerson => ({
  id,
  name,
  signIn: id,
  email: null,
  admin: false,
  state: 'in',
  hasPassphrase: true,
  lastSignIn: '2026-11-20T09:00:00.000Z',
  linkEnds: null,
  mayLead: true,
  roles: [],
  version: 1,
  ...more,
})
const EVERYBODY = [
  person('mo', 'Mo Lund', { admin: true }),
  person('ny', 'Ny Asplund', { roles: ['marker of HYD 1, autumn 2026', 'lead of HYD 2, autumn 2026'] }),
  person('pia', 'Pia Brook', { state: 'invited', lastSignIn: null }),
]
const link = (personId: string, sent: true | string = true) => ({
  personId,
  link: `http://here/come-in#${personId}-token`,
  endsAt: '2026-12-04T09:00:00.000Z',
  sent,
})

function people(addPeople: (body: never) => unknown = () => [link('new')]) {
  let all = EVERYBODY
  const server = serverAnswers([
    [routes.people, () => all],
    [routes.addPeople, addPeople],
    [routes.removePeople, () => null],
    [routes.makeWayIn, () => link('pia', 'The letter did not go out (no mail address): hand the link over.')],
    [
      routes.editPerson,
      (body: { version: number; active?: boolean }, address: string) => {
        const id = address.split('/').at(-1)!
        const now = all.find((p) => p.id === id)!
        if (body.version !== now.version) return new Refuses(409, `${now.name} was changed meanwhile.`)
        const { version, active, ...patch } = body
        const state = active === undefined ? now.state : active ? ('in' as const) : ('inactive' as const)
        const after = { ...now, ...patch, state, version: version + 1 }
        all = all.map((p) => (p.id === id ? after : p))
        return after
      },
    ],
  ])
  const me = { ...self('mo', 'Mo Lund'), admin: true, look: null }
  return { server, ...inPage(<PeoplePart />, { address: '/installation/people', known: [[['me'], me]] }) }
}

test('somebody is found by a part they have; a link that has ended is said', async () => {
  const { user } = people()
  await screen.findByRole('button', { name: 'Mo Lund' })
  expect(screen.getByText('invited, link ended')).toBeTruthy()
  await user.type(screen.getByLabelText('Find people'), 'hyd 2')
  expect(screen.getAllByRole('row')).toHaveLength(2)
  expect(screen.getByRole('button', { name: 'Ny Asplund' })).toBeTruthy()
  await user.clear(screen.getByLabelText('Find people'))
  await user.click(screen.getByRole('button', { name: 'invited 1' }))
  expect(screen.queryByRole('button', { name: 'Ny Asplund' })).toBeNull()
})

test('let in no more, and undone, each on top of the version before', async () => {
  const { user, server } = people()
  await user.click(await screen.findByRole('button', { name: 'Ny Asplund' }))
  await user.click(screen.getByRole('button', { name: 'Let in no more' }))
  expect(await screen.findByRole('button', { name: 'Bring them back' })).toBeTruthy()
  await user.click(screen.getByRole('button', { name: /^Undo: Ny Asplund not active/ }))
  expect(await screen.findByRole('button', { name: 'Reset the passphrase' })).toBeTruthy()
  expect(server.sent.map((s) => s.body)).toEqual([
    { version: 1, active: false },
    { version: 2, active: true },
  ])
})

test('who administers cannot shut themselves out, and a link whose letter did not go out is handed over', async () => {
  const { user } = people()
  await user.click(await screen.findByRole('button', { name: 'Mo Lund' }))
  expect(screen.queryByRole('button', { name: 'Let in no more' })).toBeNull()
  await user.click(screen.getByRole('button', { name: 'Pia Brook' }))
  await user.click(screen.getByRole('button', { name: 'Invite again' }))
  expect(((await screen.findByLabelText('Link for Pia Brook')) as HTMLInputElement).value).toMatch(/#pia-token$/)
  expect(screen.getByText(/1 letter did not go out/)).toBeTruthy()
})

test('what the server refuses stands at its field, and nothing typed is lost', async () => {
  const { user } = people(() => new Refuses(422, 'ny is the sign-in of Ny Asplund already.'))
  await screen.findByRole('button', { name: 'Mo Lund' })
  await user.keyboard('+')
  const dialog = within(await screen.findByRole('dialog'))
  await user.type(dialog.getByLabelText('Name'), 'Ny Again')
  await user.click(dialog.getByRole('button', { name: /^Invite/ }))
  expect(await dialog.findByText('Give a sign-in.')).toBeTruthy()
  await user.type(dialog.getByLabelText('Sign-in'), 'ny')
  await user.click(dialog.getByRole('button', { name: /^Invite/ }))
  expect((await dialog.findByRole('alert')).textContent).toBe('ny is the sign-in of Ny Asplund already.')
  expect((dialog.getByLabelText('Name') as HTMLInputElement).value).toBe('Ny Again')
})

test('who was added is taken back by undo', async () => {
  const { user, server } = people()
  await screen.findByRole('button', { name: 'Mo Lund' })
  await user.keyboard('+')
  const dialog = within(await screen.findByRole('dialog'))
  await user.type(dialog.getByLabelText('Name'), 'Quin Hart')
  await user.type(dialog.getByLabelText('Sign-in'), 'quin{Enter}')
  expect(await dialog.findByLabelText('Link for Quin Hart')).toBeTruthy()
  await user.click(dialog.getByRole('button', { name: 'Done' }))
  await user.click(screen.getByRole('button', { name: 'Undo: add Quin Hart' }))
  await waitFor(() => expect(server.sent.at(-1)).toMatchObject({ address: '/api/people/take-back', body: { personIds: ['new'] } }))
})

test('what happened is found by kind and by words', async () => {
  const row = (id: number, kind: string, words: string) => ({
    id,
    at: '2026-11-20T09:00:00.000Z',
    kind,
    by: 'Mo Lund',
    about: null,
    course: null,
    words,
  })
  serverAnswers([[routes.audit, () => [row(2, 'taken out', 'marks.csv'), row(1, 'signed in', '')]]])
  const { user } = inPage(<AuditPart />, { address: '/installation/audit' })
  expect(await screen.findByRole('table', { name: '2 entries' })).toBeTruthy()
  await user.selectOptions(screen.getByLabelText('Of which kind'), 'taken out')
  expect(screen.getByRole('table', { name: '1 entry' })).toBeTruthy()
  await user.type(screen.getByLabelText('Find in the list'), 'nothing of that')
  expect(screen.getByText('Nothing of that kind has happened.')).toBeTruthy()
})
