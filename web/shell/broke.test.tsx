import { render, screen } from '@testing-library/react'
import { userEvent } from '@testing-library/user-event'
import { Broke } from './Broke'

let broken = true
function Fragile() {
  if (broken) throw new Error('no width')
  return <p>drawn</p>
}
beforeEach(() => {
  broken = true
  // React says on the console what a boundary has caught.
  jest.spyOn(console, 'error').mockImplementation(() => undefined)
})

test('a part that breaks says so in its place and can be drawn again; what stands beside it stays', async () => {
  render(
    <>
      <Broke part="The horizon">
        <Fragile />
      </Broke>
      <input aria-label="typed" defaultValue="12" />
    </>,
  )
  expect(screen.getByRole('alert').textContent).toMatch(/^The horizon broke: no width What you did is safe\./)
  expect(screen.getByLabelText<HTMLInputElement>('typed').value).toBe('12')
  broken = false
  await userEvent.click(screen.getByRole('button', { name: 'Draw it again' }))
  expect(screen.getByText('drawn')).toBeTruthy()
})
