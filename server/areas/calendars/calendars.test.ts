import ICAL from 'ical.js'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

const { server, lead } = demoServer()
let student: Client
let nobody: Client
beforeAll(async () => {
  student = await server.as('student')
  nobody = await server.as(null)
}, 60_000)

interface Address {
  address: string
  at: string
}
const made = async (who: Client) => ((await who('post', '/api/account/calendar').expect(200)).body as Address).address
const pathOf = (address: string) => address.slice(server.address.length)
const read = async (address: string) => (await nobody('get', pathOf(address)).expect(200)).text
const eventsIn = (text: string) => new ICAL.Component(ICAL.parse(text) as never).getAllSubcomponents('vevent')
const one = (text: string, title: RegExp) => eventsIn(text).find((e) => title.test(String(e.getFirstPropertyValue('summary'))))!
const own = () =>
  server.db
    .prepare<[], { id: string; section: string }>(
      `SELECT s.id, c.name AS section FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL JOIN section c ON c.id = e.section_id
       WHERE s.person_id = 'student' AND s.course_id = 'cfs214-2026'`,
    )
    .get()!

test('whoever has the address reads the days, signed in or not, and nothing of marks', async () => {
  expect((await student('get', '/api/account/calendar').expect(200)).body).toEqual({ at: null })
  const text = await read(await made(student))
  const titles = eventsIn(text).map((e) => String(e.getFirstPropertyValue('summary')))
  expect(titles).toContain(`Field book 1 due, ${own().section}`)
  expect(titles.filter((t) => t.includes(' due, ')).every((t) => t.endsWith(own().section))).toBe(true)
  expect(new Set(titles).size).toBe(titles.length)
})

test('a new address takes the place of the one before; dropped, nobody reads anything there', async () => {
  const first = await made(student)
  const second = await made(student)
  expect(second).not.toBe(first)
  await nobody('get', pathOf(first)).expect(404)
  await nobody('get', pathOf(second)).expect(200)
  // It is shown when it is made, and kept so that nobody reads it out of the database.
  expect((await student('get', '/api/account/calendar')).text).not.toContain('due.ics')
  const kept = server.db.prepare('SELECT token_hash FROM calendar_address').pluck().all() as string[]
  expect(kept.filter((hash) => second.includes(hash))).toEqual([])
  await student('delete', '/api/account/calendar').expect(204)
  await nobody('get', pathOf(second)).expect(404)
})

test('a day that is moved keeps what it is called by, counts its moves and says when', async () => {
  const address = await made(student)
  const before = one(await read(address), /^Field book 1 due/)
  expect(before.getFirstPropertyValue('sequence')).toBe(0)
  const release = { kind: 'at once' }
  const placement = {
    assessmentId: `${COURSE}-field-book-1`,
    sectionId: server.db.prepare('SELECT section_id FROM enrolment WHERE student_id = ? AND to_day IS NULL').pluck().get(own().id),
    placed: true,
    release,
  }
  await lead('put', api('/placements'), { placements: [{ ...placement, due: '2026-10-09' }] }).expect(200)
  const after = one(await read(address), /^Field book 1 due/)
  expect(String(after.getFirstPropertyValue('dtstart'))).toBe('2026-10-09')
  expect([after.getFirstPropertyValue('sequence'), after.getFirstPropertyValue('uid')]).toEqual([1, before.getFirstPropertyValue('uid')])
  expect(String(after.getFirstPropertyValue('last-modified'))).toMatch(/^20\d\d-/)
  // Set to the day that it has, it was not moved.
  await lead('put', api('/placements'), { placements: [{ ...placement, due: '2026-10-09' }] }).expect(200)
  expect(one(await read(address), /^Field book 1 due/).getFirstPropertyValue('sequence')).toBe(1)
})

test('every line is 75 octets at most, whatever the title, and what a calendar must have is there', async () => {
  server.db
    .prepare('UPDATE assessment SET title = ? WHERE id = ?')
    .run('Ωρα; für “Feld, Höhe” und mehr: 測量 '.repeat(4), `${COURSE}-levelling`)
  server.db.prepare('UPDATE course SET version = version + 1, plan_version = plan_version + 1 WHERE id = ?').run(COURSE)
  const text = await read(await made(student))
  const lines = text.split('\r\n')
  expect(lines.filter((l) => Buffer.byteLength(l) > 75)).toEqual([])
  expect(text.replaceAll('\r\n', '')).not.toMatch(/[\r\n]/)
  expect(lines.slice(0, 3)).toEqual(['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Level Table//Due days//EN'])
  expect(lines.at(-1)).toBe('')
  const unfolded = text.replaceAll('\r\n ', '')
  expect(unfolded).toMatch(/\r\nREFRESH-INTERVAL;VALUE=DURATION:PT6H\r\n/)
  expect(unfolded).toMatch(/\r\nSUMMARY:Ωρα\\; für “Feld\\, Höhe”/)
  expect(unfolded).toMatch(/\r\nDTSTART;VALUE=DATE:2026\d{4}\r\nDTEND;VALUE=DATE:2026\d{4}\r\n/)
  expect(one(text, /^Ωρα; für “Feld, Höhe”/)).toBeTruthy()
})

test('who teaches nothing and learns nothing still has a term; who has no course is told', async () => {
  expect(
    eventsIn(await read(await made(await server.as('tamsin.oyelaran.holt')))).map((e) => String(e.getFirstPropertyValue('summary'))),
  ).toContain('CFS 214: teaching begins')
  const admin = await server.as('orsolya.tamm')
  const { body } = await nobody('get', pathOf(await made(admin))).expect(404)
  expect((body as { detail: string }).detail).toMatch(/no course at the moment/)
})

test('who is no longer let in has no calendar either', async () => {
  const address = await made(student)
  server.db.prepare("UPDATE person SET active = 0 WHERE id = 'student'").run()
  await nobody('get', pathOf(address)).expect(404)
})
