import { act, render, screen } from '@testing-library/react'
import { createMemoryRouter, RouterProvider } from 'react-router'
import { KeysProvider } from '../settings/keys'
import { inPage } from '../testing/in-page'
import { useParts } from './useParts'

const PARTS = ['lines', 'suggested', 'drafts'] as const
function Stop() {
  const { shown, nav } = useParts('Bound', PARTS, '}', ['of'])
  return (
    <>
      {nav}
      <h1>{shown}</h1>
    </>
  )
}
const press = (times: number) =>
  act(() => {
    for (let i = 0; i < times; i++) document.dispatchEvent(new KeyboardEvent('keydown', { key: '}', bubbles: true }))
  })
const heading = () => screen.getByRole('heading').textContent

test('the address follows, keeps what goes along, and a part that it names is shown', async () => {
  const router = createMemoryRouter(
    [
      {
        path: '*',
        element: (
          <KeysProvider>
            <Stop />
          </KeysProvider>
        ),
      },
    ],
    { initialEntries: ['/bound?part=suggested&of=map&else=1'] },
  )
  render(<RouterProvider router={router} />)
  expect(heading()).toBe('suggested')
  press(1)
  expect(heading()).toBe('drafts')
  await screen.findByRole('button', { name: 'drafts', pressed: true })
  expect(router.state.location.search).toBe('?part=drafts&of=map')
  await act(() => router.navigate('/bound'))
  expect(heading()).toBe('lines')
})

test('keys that come before the address has followed each step on by one', () => {
  inPage(<Stop />)
  press(1)
  press(1)
  expect(heading()).toBe('drafts')
  press(1)
  expect(heading()).toBe('lines')
})
