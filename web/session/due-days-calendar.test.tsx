import { screen } from '@testing-library/react'
import { calendarsRoutes } from '#contract/calendars'
import { inPage, serverAnswers } from '../testing/in-page'
import { DueDaysCalendar } from './DueDaysCalendar'

test('an address is made, copied, made anew and dropped, and each is said', async () => {
  let nth = 0
  const now = () => ({
    address: nth === 0 ? null : `https://table.example/api/calendars/token-${nth}/due.ics`,
    at: nth === 0 ? null : '2026-11-28T10:00:00.000Z',
  })
  const { sent } = serverAnswers([
    [calendarsRoutes.calendarAddress, now],
    [
      calendarsRoutes.renewCalendarAddress,
      () => {
        nth++
        return now()
      },
    ],
    [calendarsRoutes.dropCalendarAddress, () => undefined],
  ])
  const { user } = inPage(<DueDaysCalendar />)
  const field = () => screen.queryByRole<HTMLInputElement>('textbox', { name: 'Address of your calendar' })
  await user.click(await screen.findByRole('button', { name: 'Make a private address' }))
  expect(await screen.findByText(/^Copy it into your calendar program/)).toBeTruthy()
  expect(field()!.value).toMatch(/token-1/)
  await user.click(screen.getByRole('button', { name: 'Copy it' }))
  expect(await screen.findByText('Copied.')).toBeTruthy()
  expect(await navigator.clipboard.readText()).toMatch(/token-1/)
  await user.click(screen.getByRole('button', { name: 'Make a new one' }))
  expect(await screen.findByText(/at the one before nothing is seen any more/)).toBeTruthy()
  expect(field()!.value).toMatch(/token-2/)
  await user.click(screen.getByRole('button', { name: 'Drop it' }))
  expect(await screen.findByText('Dropped: nothing is seen there any more.')).toBeTruthy()
  expect(field()).toBeNull()
  expect(sent.map((s) => s.method)).toEqual(['POST', 'POST', 'DELETE'])
})
