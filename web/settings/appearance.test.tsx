import { act, screen } from '@testing-library/react'
import { inPage } from '../testing/in-page'
import { AppearanceSettings } from './AppearanceSettings'
import { rowHeight, setAppearance, wearAppearance } from './appearance'

const html = document.documentElement
let systemTurns: () => void
let isDark = false
beforeAll(() => {
  window.matchMedia = () =>
    ({ matches: isDark, addEventListener: (_: string, f: () => void) => (systemTurns = f) }) as unknown as MediaQueryList
  wearAppearance()
})
afterEach(() => act(() => setAppearance({ shade: 'as the system', rows: 'usual' })))

test('light or dark as the system is, until one of them is chosen', async () => {
  const { user } = inPage(<AppearanceSettings />)
  expect(html.dataset.shade).toBe('light')
  isDark = true
  systemTurns()
  expect(html.dataset.shade).toBe('dark')
  await user.click(screen.getByRole('radio', { name: 'light' }))
  expect([html.dataset.shade, localStorage.getItem('level-table-appearance')]).toEqual(['light', '{"shade":"light","rows":"usual"}'])
  systemTurns()
  expect(html.dataset.shade).toBe('light')
  isDark = false
})

test('rows are higher where one likes, in the grids that draw only what is in sight too', async () => {
  const { user } = inPage(<AppearanceSettings />)
  expect([html.dataset.rows, rowHeight()]).toEqual(['usual', 30])
  await user.click(screen.getByRole('radio', { name: 'wide' }))
  expect([html.dataset.rows, rowHeight()]).toEqual(['wide', 38])
})

test('what another tab chose is taken over; what it could not have written is the usual', () => {
  inPage(<AppearanceSettings />)
  const wrote = (kept: string) =>
    act(() => {
      localStorage.setItem('level-table-appearance', kept)
      window.dispatchEvent(new StorageEvent('storage', { key: 'level-table-appearance' }))
    })
  wrote('{"shade":"dark","rows":"close"}')
  expect([html.dataset.shade, screen.getByRole<HTMLInputElement>('radio', { name: 'close' }).checked]).toEqual(['dark', true])
  wrote('{"shade":"mauve"')
  expect([html.dataset.shade, screen.getByRole<HTMLInputElement>('radio', { name: 'usual' }).checked]).toEqual(['light', true])
})
