import { screen, waitFor } from '@testing-library/react'
import { Route, Routes } from 'react-router'
import { routes, type Installation } from '#contract'
import { self } from '../testing/data'
import { inPage, Refuses, serverAnswers } from '../testing/in-page'
import { SignedOn } from './SignedOn'
import { SignIn } from './SignIn'

const HERE: Installation = { department: 'Hydrography', needsSetUp: false, demo: false, passphrases: true, provider: null }
const ME = self('mo', 'Mo Lund')

describe('the door', () => {
  const DIRECTORY = { people: [{ signIn: 'mo', name: 'Mo Lund', does: 'marks' }], passphrase: 'level' }
  test('says what is missing, in the field’s own place, and why it was refused', async () => {
    serverAnswers([
      [routes.directory, () => ({ people: [], passphrase: null })],
      [routes.installation, () => HERE],
      [routes.signIn, () => new Refuses(401, 'No such sign-in, or another passphrase.')],
    ])
    const { user } = inPage(<SignIn />)
    await user.click(await screen.findByRole('button', { name: 'Sign in' }))
    expect(await screen.findByText('The passphrase is missing.')).toBeTruthy()
    await user.type(screen.getByLabelText('Sign-in'), 'mo')
    await user.type(screen.getByLabelText('Passphrase'), 'wrong{Enter}')
    expect((await screen.findByRole('alert')).textContent).toBe('No such sign-in, or another passphrase.')
    expect(screen.queryByText(/somebody of the demo/)).toBeNull()
  })

  test('lists the demo’s people where the server says so, and lets them in with a press', async () => {
    const server = serverAnswers([
      [routes.directory, () => DIRECTORY],
      [routes.installation, () => HERE],
      [routes.signIn, () => ME],
    ])
    const { user, queries } = inPage(<SignIn />)
    await user.click(await screen.findByRole('button', { name: /Mo Lund/ }))
    expect(server.sent[0]!.body).toEqual({ signIn: 'mo', passphrase: 'level' })
    await waitFor(() => expect(queries.getQueryData(['me'])).toEqual({ ...ME, look: null }))
  })

  test('by the provider: that it does not answer is said beside the button, and passphrases are for who administers where they are left out', async () => {
    serverAnswers([
      [routes.directory, () => ({ people: [], passphrase: null })],
      [routes.installation, () => ({ ...HERE, provider: 'Vale account', passphrases: false })],
      [routes.beginSignOn, () => new Refuses(502, 'Vale account cannot be reached.')],
    ])
    const { user } = inPage(<SignIn />)
    const button = await screen.findByRole('button', { name: 'Come in by Vale account' })
    expect(document.activeElement).toBe(button)
    await user.keyboard('{Enter}')
    expect((await screen.findByRole('alert')).textContent).toBe('Vale account cannot be reached.')
    expect(screen.queryByLabelText('Passphrase')).toBeNull()
    await user.click(screen.getByRole('button', { name: 'Who administers can come in by passphrase' }))
    expect(document.activeElement).toBe(screen.getByLabelText('Sign-in'))
  })

  test('where a sign-in ends while somebody types, no key of theirs goes to the provider or into a field', async () => {
    serverAnswers([
      [routes.directory, () => DIRECTORY],
      [routes.installation, () => ({ ...HERE, provider: 'Vale account' })],
    ])
    inPage(<SignIn again />)
    await screen.findByRole('button', { name: 'Come in by Vale account' })
    expect(document.activeElement).toBe(document.body)
  })

  test('back from the provider: in, at the page that was asked for; or not, with why and the way to try again', async () => {
    const server = serverAnswers([
      [routes.installation, () => ({ ...HERE, provider: 'Vale account' })],
      [routes.finishSignOn, () => new Refuses(403, 'Nobody here has the sign-in mo.')],
    ])
    const { queries } = inPage(
      <Routes>
        <Route path="/signed-on" element={<SignedOn />} />
        <Route path="*" element={null} />
      </Routes>,
      { address: '/signed-on?code=c&state=s' },
    )
    expect((await screen.findByRole('alert')).textContent).toBe('Nobody here has the sign-in mo.')
    expect(server.sent[0]!.body).toEqual({ query: '?code=c&state=s' })
    expect(await screen.findByRole('button', { name: 'Try again' })).toBeTruthy()
    serverAnswers([[routes.finishSignOn, () => ME]])
    sessionStorage.setItem('wanted page', '/courses/c/bound')
    await queries.refetchQueries({ queryKey: ['signed on'] })
    await waitFor(() => expect(queries.getQueryData(['me'])).toEqual({ ...ME, look: null }))
    expect(sessionStorage).toHaveLength(0)
  })
})
