import { screen } from '@testing-library/react'
import { inPage } from '../testing/in-page'
import { NEW_VERSION, NewVersion } from './NewVersion'
import { isNewVersion, lookForVersion } from '../api/new-version'

const serves = (html: string | null) => {
  globalThis.fetch = jest.fn(() =>
    html === null ? Promise.reject(new Error('away')) : Promise.resolve({ ok: true, text: () => Promise.resolve(html) }),
  ) as never
}
beforeEach(() => {
  document.head.innerHTML = '<script type="module" src="/assets/index-one.js"></script>'
})

test('a page of an earlier version than the server says so, and one that cannot reach it does not', async () => {
  serves(null)
  expect(await isNewVersion()).toBe(false)
  serves('<script type="module" crossorigin src="/assets/index-one.js"></script>')
  expect(await isNewVersion()).toBe(false)
  inPage(<NewVersion />)
  await lookForVersion()
  expect(screen.queryByText(NEW_VERSION)).toBeNull()
  serves('<script type="module" crossorigin src="/assets/index-two.js"></script>')
  await lookForVersion()
  expect((await screen.findByText(NEW_VERSION)).textContent).toMatch(/what you typed is kept/)
  expect(screen.getByRole('button', { name: 'Load it again' })).toBeTruthy()
})
