import { render, screen } from '@testing-library/react'
import { userEvent } from '@testing-library/user-event'
import { createMemoryRouter, Link, Outlet, RouterProvider } from 'react-router'
import { Dialog } from '../parts/Dialog'
import { NumberField } from '../parts/NumberField'
import { inPage } from '../testing/in-page'
import { drafts, useDraft } from './drafts'
import { LeaveGuard } from './LeaveGuard'
import { SavedProvider } from './saved'

test('once something is typed in a dialog, Esc asks once before it goes', async () => {
  const onClose = jest.fn()
  const { user } = inPage(
    <Dialog onClose={onClose}>
      <input aria-label="Name" autoFocus />
    </Dialog>,
  )
  await user.type(screen.getByLabelText('Name'), 'Orla')
  await user.keyboard('{Escape}')
  expect(onClose).not.toHaveBeenCalled()
  expect(screen.getByText(/Esc once more/).getAttribute('role')).toBe('status')
  await user.keyboard('{Escape}')
  expect(onClose).toHaveBeenCalledTimes(1)
})

test('an untouched dialog goes at the first Esc', async () => {
  const onClose = jest.fn()
  const { user } = inPage(
    <Dialog onClose={onClose}>
      <input aria-label="Name" autoFocus />
    </Dialog>,
  )
  await user.click(screen.getByLabelText('Name'))
  await user.keyboard('{Escape}')
  expect(onClose).toHaveBeenCalledTimes(1)
})

function elsewhere() {
  const screenOf = (
    <SavedProvider>
      <Link to="/there">there</Link>
      <Outlet />
      <LeaveGuard />
    </SavedProvider>
  )
  const field = <NumberField label="Weight" value={40} min={0} max={100} onCommit={() => undefined} />
  const router = createMemoryRouter([
    {
      element: screenOf,
      children: [
        { path: '/', element: field },
        { path: '/there', element: <h1>There</h1> },
      ],
    },
  ])
  render(<RouterProvider router={router} />)
  return userEvent.setup()
}

test('what a field refused stays with the reason, and leaving over it is asked about', async () => {
  const user = elsewhere()
  await user.clear(screen.getByLabelText('Weight'))
  await user.type(screen.getByLabelText('Weight'), '140')
  await user.tab()
  expect(screen.getByRole('alert').textContent).toMatch(/Not taken: give a number from 0 to 100; 40 is what stands/)
  await user.click(screen.getByRole('link', { name: 'there' }))
  expect(screen.getByRole('dialog', { name: 'Something is not saved' }).textContent).toMatch(/Weight: 140/)
  await user.click(screen.getByRole('button', { name: 'Stay and mend it' }))
  expect(screen.getByLabelText<HTMLInputElement>('Weight').value).toBe('140')
  await user.click(screen.getByRole('link', { name: 'there' }))
  await user.click(screen.getByRole('button', { name: 'Leave it' }))
  expect(await screen.findByRole('heading', { name: 'There' })).toBeTruthy()
})

test('put back, one leaves unasked', async () => {
  const user = elsewhere()
  await user.type(screen.getByLabelText('Weight'), '0')
  await user.tab()
  await user.click(screen.getByRole('button', { name: 'Put it back' }))
  expect(screen.getByLabelText<HTMLInputElement>('Weight').value).toBe('40')
  await user.click(screen.getByRole('link', { name: 'there' }))
  expect(await screen.findByRole('heading', { name: 'There' })).toBeTruthy()
})

function Reason() {
  const [text, type, drop] = useDraft('adopt')
  return (
    <>
      <input aria-label="Reason" value={text} onChange={(e) => type(e.target.value)} />
      <button onClick={drop}>Send</button>
    </>
  )
}

test('a reason typed and not sent is there when one comes back to it, and gone once it is sent', async () => {
  const { user, show } = inPage(<Reason />)
  await user.type(screen.getByLabelText('Reason'), 'The second task was unfair')
  show(<p>elsewhere</p>)
  show(<Reason />)
  expect(screen.getByLabelText<HTMLInputElement>('Reason').value).toBe('The second task was unfair')
  expect(drafts.any).toBe(true)
  await user.click(screen.getByRole('button', { name: 'Send' }))
  expect(screen.getByLabelText<HTMLInputElement>('Reason').value).toBe('')
  expect(drafts.any).toBe(false)
})
