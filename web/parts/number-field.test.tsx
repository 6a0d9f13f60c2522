import { screen } from '@testing-library/react'
import { useState } from 'react'
import { useKeys } from '../settings/keys'
import { inPage } from '../testing/in-page'
import { NumberField } from './NumberField'

const pressed = jest.fn()
function Page({ min }: { min?: number }) {
  const [value, setValue] = useState<number | null>(12)
  useKeys([{ key: 'n', does: 'another one', run: pressed }])
  return <NumberField label="Mark" value={value} min={min} onCommit={setValue} />
}
const field = () => screen.getByLabelText<HTMLInputElement>('Mark')

beforeEach(() => pressed.mockClear())

test('after Esc the very next key is meant for the page', async () => {
  const { user } = inPage(<Page />)
  await user.click(field())
  await user.keyboard('5{Escape}n')
  expect(pressed).toHaveBeenCalledTimes(1)
  expect(field().value).toBe('12')
  expect(field()).not.toBe(document.activeElement)
})

test('Esc puts back what could not be taken, and nothing is said of it any more', async () => {
  const { user } = inPage(<Page min={0} />)
  await user.clear(field())
  await user.type(field(), '-3{Enter}')
  expect(screen.getByRole('alert').textContent).toMatch(/Not taken: give a number from 0; 12 is what stands/)
  await user.keyboard('{Escape}')
  expect(screen.queryByRole('alert')).toBeNull()
  expect(field().value).toBe('12')
})

test('arrows step from what stands, within what is allowed', async () => {
  const { user } = inPage(<Page min={11} />)
  await user.click(field())
  await user.keyboard('{ArrowDown}')
  expect(field().value).toBe('11')
  await user.keyboard('{ArrowDown}')
  expect(field().value).toBe('11')
  await user.keyboard('{ArrowUp}{ArrowUp}')
  expect(field().value).toBe('13')
})
