import { act, screen } from '@testing-library/react'
import { inPage } from '../testing/in-page'
import { CloseUp } from './CloseUp'

let tell: (entry: { isIntersecting: boolean; boundingClientRect: { top: number } }) => void
class Observer {
  constructor(told: (entries: unknown[]) => void) {
    tell = (entry) => act(() => told([entry]))
  }
  observe = () => undefined
  disconnect = () => undefined
}
beforeEach(() => Object.assign(window, { IntersectionObserver: Observer }))
afterEach(() => Reflect.deleteProperty(window, 'IntersectionObserver'))

const page = () =>
  inPage(
    <>
      <button>a row</button>
      <CloseUp>
        <button>settle</button>
      </CloseUp>
    </>,
  )
const closeUp = () => screen.getByRole('complementary', { name: 'Close-up' })
const call = () => screen.queryByRole('button', { name: /^close-up/ })

test('called by its key it comes up over the table, and put away the focus is where it was', async () => {
  const { user } = page()
  await user.click(screen.getByRole('button', { name: 'a row' }))
  await user.keyboard('u')
  expect(document.activeElement).toBe(closeUp())
  expect(closeUp().className).toContain('over')
  await user.click(screen.getByRole('button', { name: 'settle' }))
  await user.keyboard('{Escape}')
  expect(closeUp().className).not.toContain('over')
  expect(document.activeElement?.textContent).toBe('a row')
})

test('one who goes on elsewhere finds nothing over it', async () => {
  const { user } = page()
  await user.keyboard('u')
  await user.click(screen.getByRole('button', { name: 'a row' }))
  expect(closeUp().className).not.toContain('over')
  expect(document.activeElement?.textContent).toBe('a row')
})

test('a way to call it is there only while it is beneath what is in sight, and something is in it', async () => {
  const { user, show } = page()
  expect(call()).toBeNull()
  tell({ isIntersecting: false, boundingClientRect: { top: 900 } })
  await user.click(call()!)
  expect(closeUp().className).toContain('over')
  expect(call()).toBeNull()
  await user.click(screen.getByRole('button', { name: /^put it away/ }))
  tell({ isIntersecting: true, boundingClientRect: { top: 300 } })
  expect(call()).toBeNull()
  tell({ isIntersecting: false, boundingClientRect: { top: -400 } })
  expect(call()).toBeNull()
  show(<CloseUp />)
  tell({ isIntersecting: false, boundingClientRect: { top: 900 } })
  expect(call()).toBeNull()
})
