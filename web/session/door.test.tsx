import { screen, waitFor, within } from '@testing-library/react'
import { Route, Routes } from 'react-router'
import { routes, type Installation, type OwnWork } from '#contract'
import { courseHead, self } from '../testing/data'
import { inPage, Refuses, serverAnswers } from '../testing/in-page'
import { SignedOn } from './SignedOn'
import { SignIn } from './SignIn'
import { StudentFrame } from '../student/StudentFrame'

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
      { at: '/signed-on?code=c&state=s' },
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

describe('a student', () => {
  const COURSE = courseHead('student')
  const work = (assessment: string, more: Partial<OwnWork['work'][number]> = {}): OwnWork['work'][number] => ({
    assessment,
    due: '2026-11-16',
    released: false,
    mark: null,
    outOf: 20,
    status: null,
    remarks: [],
    standard: null,
    exemplars: [],
    ...more,
  })
  const seen = (all: OwnWork['work'], result: OwnWork['result'] = null) => {
    serverAnswers([[routes.ownWork, () => ({ name: 'Ada', candidate: '4711', section: 'East', work: all, result })]])
    return inPage(<StudentFrame me={ME as never} courses={[COURSE]} head={COURSE} />)
  }
  test('sees marks that are released, aligned on the decimal, and of all else that it is not yet', async () => {
    seen([
      work('Sketch', { released: true, mark: 12.5, status: 'in' }),
      work('Paper', { released: true, mark: 9, status: 'late' }),
      work('Talk'),
      work('Viva', { released: true, status: 'absent', due: null }),
    ])
    await screen.findByText('12.5')
    const rows = screen.getAllByRole('row').slice(1)
    expect(rows.map((r) => r.textContent)).toEqual([
      'SketchMon 16 Nov12.5of 20',
      'PaperMon 16 Nov9.0of 20',
      'TalkMon 16 Novnot released',
      'Vivano day yetabsent',
    ])
  })

  test('reads the confirmed result, where the grade begins and what held it back', async () => {
    seen([work('Sketch')], {
      issue: 1,
      percent: 64.5,
      grade: 'Pass',
      pending: 0,
      components: [{ title: 'Written paper', percent: 38 }],
      begins: 50,
      heldBy: [{ on: 'Written paper', least: 40, atMost: 'Pass' }],
    })
    const result = await screen.findByRole('region', { name: 'Your result' })
    expect(result.textContent).toMatch(/^Your result: Pass, 64.5%Confirmed, issue 1. Pass begins at 50./)
    expect(result.textContent).toMatch(/A grade above Pass asks for at least 40% in Written paper./)
  })

  test('opens what was remarked, reading by reading, without who it was', async () => {
    const remarks = [
      { comment: 'A clear ridge.', parts: [{ title: 'Line', words: 'Steady.', points: { given: 6, of: 8, takenOff: false } }] },
      { comment: '', parts: [{ title: 'Late', words: 'By a day.', points: { given: 2, of: 4, takenOff: true } }] },
    ]
    const { user } = seen([work('Sketch', { released: true, mark: 12, remarks })])
    await user.click(await screen.findByRole('button', { name: 'Sketch' }))
    const region = screen.getByRole('region', { name: /remarked on your Sketch/ })
    expect(
      within(region)
        .getAllByRole('article')
        .map((a) => a.textContent),
    ).toEqual(['Reading 1A clear ridge.Line 6 of 8Steady.', 'Reading 2Late −2 of at most −4By a day.'])
    await user.click(screen.getByRole('button', { name: 'Sketch' }))
    expect(screen.queryByRole('region', { name: /remarked/ })).toBeNull()
  })

  test('with nothing set is told what will be here', async () => {
    seen([])
    expect(await screen.findByText(/Nothing is set for you yet/)).toBeTruthy()
  })
})
