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
  /** As it was just made: the server keeps only by what it knows it again. */
  const [address, setAddress] = useState<string | null>(null)
  const field = useRef<HTMLInputElement>(null)
  if (own.error) return <p className="note bad">{messageOf(own.error)}</p>
  if (!own.data) return null
  const { at } = own.data
  const renew = async () => {
    const made = await write(at ? 'a new calendar address' : 'a calendar address', () => call(calendarsRoutes.renewCalendarAddress))
    if (!made) return
    setAddress(made.address)
    queries.setQueryData(KEY, { at: made.at })
    setSaid(
      at
        ? 'This is the new address. The one before no longer works. Copy it now: it is shown only once.'
        : 'Copy it now into your calendar program, as a calendar to subscribe to: it is shown only once.',
    )
  }
  const drop = async () => {
    if ((await write('drop the calendar address', () => call(calendarsRoutes.dropCalendarAddress))) === null) return
    setAddress(null)
    queries.setQueryData(KEY, { at: null })
    setSaid('Removed. The address no longer works.')
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
        {at ? (
          <>
            {address && (
              <Button size="sm" onClick={copy}>
                Copy it
              </Button>
            )}
            <Button size="sm" variant="outline-primary" onClick={() => void renew()}>
              Make a new one
            </Button>
            <Button size="sm" variant="link" onClick={() => void drop()}>
              Remove it
            </Button>
          </>
        ) : (
          <Button size="sm" variant="outline-primary" onClick={() => void renew()}>
            Make a private address
          </Button>
        )}
      </div>
      <p className="soft small mt-2 mb-0" role="status">
        {said ||
          (at
            ? `You have an address since ${shownAt(at, 'd MMMM')}. It was shown when it was made; if you no longer have it, make a new one.`
            : '')}
      </p>
    </section>
  )
}
