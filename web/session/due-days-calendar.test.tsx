import { screen } from '@testing-library/react'
import { calendarsRoutes } from '#contract/calendars'
import { inPage, serverAnswers } from '../testing/in-page'
import { DueDaysCalendar } from './DueDaysCalendar'

test('an address is made, copied, made anew and dropped, and each is said', async () => {
  let nth = 0
  const at = '2026-11-28T10:00:00.000Z'
  const { sent } = serverAnswers([
    [calendarsRoutes.calendarAddress, () => ({ at: nth === 0 ? null : at })],
    [
      calendarsRoutes.renewCalendarAddress,
      () => {
        nth++
        return { address: `https://table.example/api/calendars/token-${nth}/due.ics`, at }
      },
    ],
    [calendarsRoutes.dropCalendarAddress, () => undefined],
  ])
  const { user } = inPage(<DueDaysCalendar />)
  const field = () => screen.queryByRole<HTMLInputElement>('textbox', { name: 'Address of your calendar' })
  await user.click(await screen.findByRole('button', { name: 'Make a private address' }))
  expect(await screen.findByText(/^Copy it now into your calendar program/)).toBeTruthy()
  expect(field()!.value).toMatch(/token-1/)
  await user.click(screen.getByRole('button', { name: 'Copy it' }))
  expect(await screen.findByText('Copied.')).toBeTruthy()
  expect(await navigator.clipboard.readText()).toMatch(/token-1/)
  await user.click(screen.getByRole('button', { name: 'Make a new one' }))
  expect(await screen.findByText(/The one before no longer works/)).toBeTruthy()
  expect(field()!.value).toMatch(/token-2/)
  await user.click(screen.getByRole('button', { name: 'Remove it' }))
  expect(await screen.findByText('Removed. The address no longer works.')).toBeTruthy()
  expect(field()).toBeNull()
  expect(sent.map((s) => s.method)).toEqual(['POST', 'POST', 'DELETE'])
})
