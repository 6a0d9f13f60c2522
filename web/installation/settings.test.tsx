import { screen, waitFor, within } from '@testing-library/react'
import { routes, STAND_IN, type Provider, type Settings } from '#contract'
import { inPage, Refuses, serverAnswers } from '../testing/in-page'
import { SettingsPart } from './SettingsPart'

const PROVIDER: Provider = { name: 'Vale account', issuer: STAND_IN, clientId: 'level-table', claim: 'sub', makesPeople: false }

function settings(
  more: Partial<Settings> = {},
  about: () => unknown = () => ({ issuer: 'http://here/sign-on', claims: ['sub', 'name'] }),
  held = Promise.resolve(),
) {
  let now: Settings = {
    version: 4,
    department: 'Hydrography',
    signOn: { passphrases: true, provider: null },
    namelessAfter: 365,
    backTo: 'http://here/signed-on',
    secret: false,
    standIn: 'works',
    ...more,
  }
  const server = serverAnswers([
    [routes.settings, () => now],
    [
      routes.setSettings,
      async ({ version, ...what }: { version: number } & Partial<Settings>) => {
        await held
        if (version !== now.version) return new Refuses(409, 'Somebody else changed the settings meanwhile.')
        return (now = { ...now, ...what, version: version + 1 })
      },
    ],
    [routes.tryProvider, about],
    [routes.setProviderMode, ({ mode }: { mode: Settings['standIn'] }) => (now = { ...now, standIn: mode })],
  ])
  return { server, ...inPage(<SettingsPart />, { address: '/installation/settings' }) }
}

test('a provider is named: what is missing is said in its place, it is asked who it is, and it can be undone', async () => {
  const { user, server } = settings()
  await user.click(await screen.findByRole('button', { name: 'Name a provider…' }))
  const dialog = within(screen.getByRole('dialog'))
  await user.click(dialog.getByRole('button', { name: /^Save/ }))
  expect(await dialog.findByText('What do people know it as?')).toBeTruthy()
  await user.type(dialog.getByLabelText('What people know it as'), 'Vale account')
  await user.type(dialog.getByLabelText('Its address (issuer)'), 'http://vale.example')
  await user.click(dialog.getByRole('button', { name: 'Ask it who it is' }))
  expect(await dialog.findByText(/Give the address that the provider names/)).toBeTruthy()
  expect(server.sent).toEqual([])
  await user.click(dialog.getByRole('button', { name: 'Take the stand-in' }))
  await user.click(dialog.getByRole('button', { name: 'Ask it who it is' }))
  // It has no such claim, which is told before anybody stands at a closed door.
  expect((await dialog.findByText(/It answers, as http/)).textContent).toContain('preferred_username is not among them')
  await user.clear(dialog.getByLabelText('Claim that is people’s sign-in'))
  await user.type(dialog.getByLabelText('Claim that is people’s sign-in'), 'sub')
  await user.click(dialog.getByRole('button', { name: /^Save/ }))
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
  expect(server.sent.at(-1)!.body).toEqual({ version: 4, signOn: { passphrases: true, provider: PROVIDER } })
  expect(screen.getByText('is not let in')).toBeTruthy()
  await user.click(screen.getByRole('button', { name: /^Undo: the provider/ }))
  expect(await screen.findByRole('button', { name: 'Name a provider…' })).toBeTruthy()
  expect(server.sent.at(-1)!.body).toEqual({ version: 5, signOn: { passphrases: true, provider: null } })
})

test('a provider that does not answer is said in the dialog, and what was typed stays', async () => {
  const { user } = settings({}, () => new Refuses(502, 'Vale account cannot be reached.'))
  await user.click(await screen.findByRole('button', { name: 'Name a provider…' }))
  const dialog = within(screen.getByRole('dialog'))
  await user.type(dialog.getByLabelText('What people know it as'), 'Vale account')
  await user.type(dialog.getByLabelText('Its address (issuer)'), 'https://vale.example')
  await user.click(dialog.getByRole('button', { name: 'Ask it who it is' }))
  expect(await dialog.findByText('Vale account cannot be reached.')).toBeTruthy()
  expect(dialog.getByLabelText<HTMLInputElement>('Its address (issuer)').value).toBe('https://vale.example')
})

test('passphrases are left out and come back; what somebody else changed meanwhile is told', async () => {
  const { user, server } = settings({ signOn: { passphrases: true, provider: PROVIDER } })
  await user.click(await screen.findByLabelText('Passphrases too'))
  await waitFor(() => expect(server.sent.at(-1)!.body).toEqual({ version: 4, signOn: { passphrases: false, provider: PROVIDER } }))
  await user.click(screen.getByRole('button', { name: 'Leave it out' }))
  // Without a provider there are passphrases again.
  await waitFor(() => expect(server.sent.at(-1)!.body).toEqual({ version: 5, signOn: { passphrases: true, provider: null } }))
  await user.selectOptions(screen.getByLabelText('It'), 'is slow')
  await waitFor(() => expect(server.sent.at(-1)!.body).toEqual({ mode: 'is slow' }))
})

test('what is ticked is shown at once, also where another write has its turn before it', async () => {
  let answer!: () => void
  const held = new Promise<void>((done) => (answer = done))
  const { user, server } = settings({ signOn: { passphrases: true, provider: PROVIDER } }, undefined, held)
  const department = await screen.findByLabelText('Department')
  await user.clear(department)
  await user.type(department, 'Rivers{Enter}')
  await waitFor(() => expect(server.sent).toHaveLength(1))
  const box = screen.getByLabelText<HTMLInputElement>('Passphrases too')
  await user.click(box)
  expect([box.checked, server.sent.length]).toEqual([false, 1])
  answer()
  await waitFor(() => expect(server.sent.at(-1)!.body).toEqual({ version: 5, signOn: { passphrases: false, provider: PROVIDER } }))
  await waitFor(() => expect(box.checked).toBe(false))
})
