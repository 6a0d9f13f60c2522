import fc from 'fast-check'
import { calendarOf, type DayEvent } from './calendar'

const words = fc.string({ unit: 'grapheme', maxLength: 90 }).map((s) => s.replace(/\p{Cc}/gu, ''))
const day = fc
  .date({ min: new Date('2000-01-01'), max: new Date('2099-12-30'), noInvalidDate: true })
  .map((d) => d.toISOString().slice(0, 10))
const moment = fc.integer({ min: 946684800, max: 4070908800 }).map((s) => new Date(s * 1000).toISOString())
const event: fc.Arbitrary<DayEvent> = fc.record({
  uid: fc.uuid(),
  title: words,
  description: fc.array(words, { maxLength: 4 }).map((lines) => lines.join('\n')),
  day,
  moves: fc.nat(40),
  movedAt: fc.option(moment),
})

/** Content lines as RFC 5545 has them (3.1 unfolding, 3.3.11 text), read without the library that wrote them. */
const linesOf = (text: string): [string, string][] =>
  text
    .replace(/\r\n[ \t]/g, '')
    .split('\r\n')
    .filter((l) => l !== '')
    .map((l) => [l.slice(0, l.indexOf(':')), l.slice(l.indexOf(':') + 1)])
const plain = (value: string) => value.replace(/\\([\\;,Nn])/g, (_, c: string) => (c === 'n' || c === 'N' ? '\n' : c))
const bare = (iso: string) => iso.replace(/[-:]|\.000/g, '')

test('whatever things are called, each day is read as it was written, in lines of 75 octets at most', () =>
  fc.assert(
    fc.property(words, fc.array(event, { maxLength: 6 }), moment, (name, events, now) => {
      const text = calendarOf(name, events, now)
      for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
      const lines = linesOf(text)
      const all = (key: string) => lines.flatMap(([k, v]) => (k.split(';')[0] === key ? [v] : []))
      expect(plain(all('X-WR-CALNAME')[0]!)).toBe(name)
      expect(all('UID')).toEqual(events.map((e) => e.uid))
      expect(all('SUMMARY').map(plain)).toEqual(events.map((e) => e.title))
      expect(all('DESCRIPTION').map(plain)).toEqual(events.map((e) => e.description))
      expect(all('DTSTART')).toEqual(events.map((e) => bare(e.day)))
      expect(all('SEQUENCE')).toEqual(events.map((e) => String(e.moves)))
      expect(all('LAST-MODIFIED')).toEqual(events.flatMap((e) => (e.movedAt === null ? [] : [bare(e.movedAt)])))
    }),
    { numRuns: 120 },
  ))
