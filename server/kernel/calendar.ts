import ICAL from 'ical.js'
import { shiftDay, type Day } from '#core/roll'

export interface DayEvent {
  /** The same for as long as it is the same thing, wherever it is moved to. */
  uid: string
  title: string
  description: string
  day: Day
  /** How often it was moved, and when last; null where it never was. */
  moves: number
  movedAt: string | null
}

// Octets of a line, of which the mark of a continued one is the first (RFC 5545, 3.1).
ICAL.foldLength = 74

const moment = (iso: string) => ICAL.Time.fromJSDate(new Date(iso), true)

/**
 * Whole days as a calendar (iCalendar, RFC 5545), one event each, that other programs fetch again every few hours.
 * @param now the moment it is written
 */
export function calendarOf(name: string, events: readonly DayEvent[], now: string): string {
  const calendar = new ICAL.Component(['vcalendar', [], []])
  calendar.addPropertyWithValue('version', '2.0')
  calendar.addPropertyWithValue('prodid', '-//Level Table//Due days//EN')
  calendar.addPropertyWithValue('calscale', 'GREGORIAN')
  calendar.addPropertyWithValue('method', 'PUBLISH')
  calendar.addPropertyWithValue('x-wr-calname', name)
  const again = new ICAL.Property('refresh-interval')
  again.resetType('duration')
  again.setValue(ICAL.Duration.fromString('PT6H'))
  calendar.addProperty(again)
  for (const e of events) {
    const event = new ICAL.Component('vevent')
    event.addPropertyWithValue('uid', e.uid)
    event.addPropertyWithValue('dtstamp', moment(now))
    event.addPropertyWithValue('dtstart', ICAL.Time.fromDateString(e.day))
    event.addPropertyWithValue('dtend', ICAL.Time.fromDateString(shiftDay(e.day, 1)))
    event.addPropertyWithValue('summary', e.title)
    event.addPropertyWithValue('description', e.description)
    event.addPropertyWithValue('transp', 'TRANSPARENT')
    event.addPropertyWithValue('sequence', e.moves)
    if (e.movedAt !== null) event.addPropertyWithValue('last-modified', moment(e.movedAt))
    calendar.addSubcomponent(event)
  }
  return `${calendar.toString()}\r\n`
}
