import { screen, waitFor, within } from '@testing-library/react'
import { USUAL_SETTINGS, type Me } from '#contract'
import { doorRoutes } from '#contract/door'
import { page } from '../api/client'
import { fixed, numeral, shownAt, shownDay, signed } from '../parts/format'
import { self } from '../testing/data'
import { inPage, serverAnswers } from '../testing/in-page'
import { KeyCap } from './KeyCap'
import { useKeys } from './keys'
import { KeysHelp } from './KeysHelp'
import { WritingSettings } from './WritingSettings'

const OLA = { known: [[['me'], { ...self('ola'), look: null }] as const] }
const settingsIn = ({ queries }: ReturnType<typeof inPage>) => queries.getQueryData<Me>(['me'])!.settings
afterEach(() => void (page.settings = USUAL_SETTINGS))

function Screen({ did }: { did: (what: string) => void }) {
  useKeys([
    { key: 'x', does: 'cross it out', run: () => did('x') },
    { key: 'Alt+3', does: 'go to Mark', inFields: true, run: () => did('Alt+3') },
  ])
  return null
}

test('another key is pressed instead of a letter, wherever it stands; what has a meaning already is refused, and it can be as it was', async () => {
  const did = jest.fn()
  const { sent } = serverAnswers([[doorRoutes.keepOwnSettings, () => null]])
  const shown = inPage(
    <>
      <KeysHelp />
      <Screen did={did} />
      <KeyCap cap="x" />
    </>,
    OLA,
  )
  const { user } = shown
  await user.keyboard('?')
  await user.click(screen.getByRole('button', { name: 'Another key: cross it out' }))
  await user.keyboard('{Enter}')
  expect(within(screen.getByRole('dialog')).getByRole('status').textContent).toMatch(/^Enter has its meaning everywhere/)
  await user.keyboard('{Alt>}3{/Alt}')
  expect(within(screen.getByRole('dialog')).getByRole('status').textContent).toMatch(/^Alt 3 has its meaning everywhere: press a letter/)
  await user.keyboard('j')
  // Another screen has it, and one presses the same keys on all of them.
  expect(within(screen.getByRole('dialog')).getByRole('status').textContent).toMatch(/^J is a key of another screen\. Free are I Z/)
  await user.keyboard('{Control>}c{/Control}{Backspace}')
  expect(within(screen.getByRole('dialog')).getByRole('status').textContent).toMatch(/^Backspace has its meaning everywhere/)
  await user.keyboard('z')
  await waitFor(() => expect(document.activeElement).toBe(screen.getByRole('button', { name: 'Another key: cross it out' })))
  expect(sent.at(-1)!.body).toEqual({ ...USUAL_SETTINGS, keys: { x: 'z' } })
  await user.keyboard('{Escape}')
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
  await user.keyboard('xz')
  expect(did.mock.calls.flat()).toEqual(['x'])
  expect([...document.querySelectorAll('kbd')].at(-1)!.textContent).toBe('Z')

  await user.keyboard('?')
  await user.click(screen.getByRole('button', { name: 'X again: cross it out' }))
  await waitFor(() => expect(settingsIn(shown).keys).toEqual({}))
  await user.keyboard('{Escape}')
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
  await user.keyboard('xz')
  expect(did.mock.calls.flat()).toEqual(['x', 'x'])
})

test('numbers and days are written as one chooses, at once and undone; what cannot be kept is as it was, and said', async () => {
  const { sent, answer } = serverAnswers([])
  const shown = inPage(<WritingSettings />, OLA)
  const { user } = shown
  await user.click(screen.getByRole('radio', { name: '62,5' }))
  await waitFor(() => expect(sent).toHaveLength(1))
  await waitFor(() => expect(settingsIn(shown).decimal).toBe('point'))
  answer(doorRoutes.keepOwnSettings, () => null)
  await user.click(screen.getByRole('radio', { name: '62,5' }))
  await user.click(screen.getByRole('radio', { name: '2026-09-07' }))
  await waitFor(() => expect(sent.at(-1)!.body).toEqual({ decimal: 'comma', days: 'year first', keys: {} }))
  expect([fixed(62.45), numeral(1234.5), signed(-0.5), fixed(-0.04), shownDay('2026-09-07', 'EEE d MMM')]).toEqual([
    '62,5',
    '1234,5',
    '−0,5',
    '0,0',
    'Mon 2026-09-07',
  ])
  await user.keyboard('{Control>}z{/Control}')
  await waitFor(() => expect(settingsIn(shown)).toEqual({ decimal: 'comma', days: 'day first', keys: {} }))
  expect(screen.getByRole<HTMLInputElement>('radio', { name: '7 Sep 2026' }).checked).toBe(true)
})

test('moments keep their time and their weekday whichever way the day is written', () => {
  page.settings = { ...USUAL_SETTINGS, days: 'year first' }
  const at = '2026-09-07T12:30:00.000Z'
  expect(['d MMM, HH:mm', 'd MMMM yyyy', 'EEEE d MMMM, HH:mm'].map((pattern) => shownAt(at, pattern))).toEqual([
    '2026-09-07, 12:30',
    '2026-09-07',
    'Monday 2026-09-07, 12:30',
  ])
})
