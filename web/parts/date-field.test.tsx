import { screen } from '@testing-library/react'
import { inPage } from '../testing/in-page'
import { DateField } from './DateField'

const TERM = { firstDay: '2026-09-07', lastDay: '2026-12-18' }
function field(value = '2026-12-03', more: { min?: string } = {}) {
  const onCommit = jest.fn()
  const page = inPage(<DateField label="Wanted by" value={value} term={TERM} onCommit={onCommit} {...more} />)
  return { ...page, onCommit, input: screen.getByLabelText<HTMLInputElement>('Wanted by') }
}

test('a day is shown as everywhere else, and read as people write one', async () => {
  const { user, input, onCommit } = field()
  expect(input.value).toBe('3 Dec 2026')
  for (const [typed, day] of [
    ['7 Dec', '2026-12-07'],
    ['8.12.2026', '2026-12-08'],
    ['2026-12-09', '2026-12-09'],
  ] as const) {
    await user.clear(input)
    await user.type(input, `${typed}{Enter}`)
    expect(onCommit).toHaveBeenLastCalledWith(day)
  }
  await user.clear(input)
  await user.tab()
  expect(onCommit).toHaveBeenLastCalledWith('')
})

test('what is no day stays with the reason, and is not said to be saved, until it is put back', async () => {
  const { user, input, onCommit } = field()
  await user.clear(input)
  await user.type(input, '31 Feb')
  await user.tab()
  expect(input.value).toBe('31 Feb')
  expect(screen.getByRole('alert').textContent).toMatch(/^Not a day: write one as in 3 Dec or 2026-12-03/)
  expect(screen.queryByText(/^✓ saved/)).toBeNull()
  await user.click(screen.getByRole('button', { name: 'Put it back' }))
  expect(input.value).toBe('3 Dec 2026')
  expect(onCommit).not.toHaveBeenCalled()
})

test('before the first day that can be given it is refused with that day', async () => {
  const { user, input, onCommit } = field('2026-12-03', { min: '2026-12-02' })
  await user.clear(input)
  await user.type(input, '1 Dec{Enter}')
  expect(screen.getByRole('alert').textContent).toMatch(/^Give a day from 2 Dec 2026 on/)
  expect(onCommit).not.toHaveBeenCalled()
})

test('or it is chosen from a month, by keyboard alone', async () => {
  const { user, input, onCommit } = field()
  await user.click(input)
  await user.keyboard('{Alt>}{ArrowDown}{/Alt}')
  expect(screen.getByRole('dialog', { name: 'A month' })).toBeTruthy()
  expect(document.activeElement?.textContent).toBe('3')
  await user.keyboard('{ArrowRight}{Enter}')
  expect(onCommit).toHaveBeenCalledWith('2026-12-04')
  expect(screen.queryByRole('dialog')).toBeNull()
  expect(document.activeElement).toBe(screen.getByRole('button', { name: /^Open a month/ }))
})

test('Esc closes the month and nothing else', async () => {
  const { user, onCommit } = field()
  await user.click(screen.getByRole('button', { name: /^Open a month/ }))
  await user.keyboard('{Escape}')
  expect(screen.queryByRole('dialog')).toBeNull()
  expect(onCommit).not.toHaveBeenCalled()
})
