import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { calendarsRoutes } from '#contract/calendars'
import { call, messageOf } from '../api/client'
import { shownAt } from '../parts/format'
import { useWrites } from '../saving/writes'

const KEY = ['calendar address'] as const

/** The private address at which one's due days can be subscribed to. */
export function DueDaysCalendar() {
  const queries = useQueryClient()
  const { write } = useWrites()
  const own = useQuery({ queryKey: KEY, queryFn: () => call(calendarsRoutes.calendarAddress) })
  const [said, setSaid] = useState('')
  const field = useRef<HTMLInputElement>(null)
  if (own.error) return <p className="note bad">{messageOf(own.error)}</p>
  if (!own.data) return null
  const { address, at } = own.data
  const renew = async () => {
    const made = await write(address ? 'a new calendar address' : 'a calendar address', () => call(calendarsRoutes.renewCalendarAddress))
    if (!made) return
    queries.setQueryData(KEY, made)
    setSaid(
      address
        ? 'This is the new one; at the one before nothing is seen any more.'
        : 'Copy it into your calendar program, as a calendar to subscribe to.',
    )
  }
  const drop = async () => {
    if ((await write('drop the calendar address', () => call(calendarsRoutes.dropCalendarAddress))) === null) return
    queries.setQueryData(KEY, { address: null, at: null })
    setSaid('Dropped: nothing is seen there any more.')
  }
  const copy = () => {
    field.current?.select()
    void navigator.clipboard?.writeText(address!).then(
      () => setSaid('Copied.'),
      () => setSaid('It is marked: copy it with the keyboard.'),
    )
  }
  return (
    <section id="calendar" className="mt-4" aria-labelledby="due-days-calendar">
      <h2 id="due-days-calendar">Your due days in a calendar</h2>
      <p className="soft">
        A private address that calendar programs look at every few hours. Whoever has it sees titles and days, and nothing else.
      </p>
      {address && (
        <Form.Control
          ref={field}
          readOnly
          size="sm"
          className="mb-2"
          aria-label="Address of your calendar"
          value={address}
          onFocus={(e) => e.target.select()}
        />
      )}
      <div className="d-flex gap-2 flex-wrap">
        {address ? (
          <>
            <Button size="sm" onClick={copy}>
              Copy it
            </Button>
            <Button size="sm" variant="outline-primary" onClick={() => void renew()}>
              Make a new one
            </Button>
            <Button size="sm" variant="link" onClick={() => void drop()}>
              Drop it
            </Button>
          </>
        ) : (
          <Button size="sm" variant="outline-primary" onClick={() => void renew()}>
            Make a private address
          </Button>
        )}
      </div>
      <p className="soft small mt-2 mb-0" role="status">
        {said || (at ? `Made ${shownAt(at, 'd MMMM')}.` : '')}
      </p>
    </section>
  )
}
