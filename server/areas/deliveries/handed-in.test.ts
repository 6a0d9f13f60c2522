import { createHash } from 'node:crypto'
import type { OwnWork, Receipt } from '#contract'
import { MOST_HAND_INS, shiftDay } from '#core/roll'
import { clockIn, machineZone } from '../../kernel/clock'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

const MAP = `${COURSE}-map`
const PDF = Buffer.from('%PDF-1.4\n%%EOF')
const today = clockIn(machineZone()).today()

const { server, lead } = demoServer()
let student: Client
let studentId: string
beforeAll(async () => {
  student = await server.as('student')
  studentId = server.db.prepare<[], string>("SELECT id FROM student WHERE person_id = 'student'").pluck().get()!
  // Nobody has read it yet.
  server.db.prepare("UPDATE reading SET state = 'draft' WHERE script_id = ?").run(`${MAP}:${studentId}`)
  server.db.prepare('UPDATE script SET entered = NULL WHERE id = ?').run(`${MAP}:${studentId}`)
  due(0)
}, 60_000)

/** Sets it due so many days from today. */
function due(days: number): void {
  server.db.prepare('UPDATE placement SET due = ? WHERE assessment_id = ?').run(shiftDay(today, days), MAP)
  server.db.prepare('UPDATE course SET version = version + 1, plan_version = plan_version + 1 WHERE id = ?').run(COURSE)
}
const handIn = (fileName: string, content: Buffer, id = MAP) =>
  student('post', api(`/own-work/${id}/attempts`), { fileName, file: content.toString('base64') })
const own = async (id = MAP) => ((await student('get', api('/own-work')).expect(200)).body as OwnWork).work.find((w) => w.id === id)!
const script = () => server.db.prepare('SELECT status, days_late AS daysLate FROM script WHERE id = ?').get(`${MAP}:${studentId}`) as object
const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail

test('what is handed in is an attempt with a receipt, where what comes through the box is', async () => {
  const receipt = (await handIn('My map.pdf', PDF).expect(200)).body as Receipt
  expect(receipt).toMatchObject({ fileName: 'My map.pdf', daysLate: 0, hash: createHash('sha256').update(PDF).digest('hex') })
  expect((await own()).handIn).toMatchObject({ open: true, attempts: [{ fileName: 'My map.pdf', hash: receipt.hash, daysLate: 0 }] })
  const file = await lead(
    'get',
    api(`/deliveries/${server.db.prepare("SELECT id FROM delivery WHERE file_name = 'My map.pdf'").pluck().get() as string}/file`),
  )
  expect(file.body).toEqual(PDF)
  expect(detail(await handIn('Again.pdf', PDF).expect(409))).toMatch(/that you handed in last/)
})

test('after the due day it counts as late, and is taken', async () => {
  due(-2)
  expect((await handIn('late.txt', Buffer.from('The ford, drawn.')).expect(200)).body).toMatchObject({ daysLate: 2 })
  expect(script()).toMatchObject({ status: 'late', daysLate: 2 })
  due(0)
})

test('what was missing is missing no more once it came, and what was marked by hand counts by its latest version', async () => {
  const set = (status: string, entered: number | null) =>
    server.db.prepare('UPDATE script SET status = ?, days_late = 0, entered = ? WHERE id = ?').run(status, entered, `${MAP}:${studentId}`)
  const why = (fileName: string) => server.db.prepare('SELECT why FROM delivery WHERE file_name = ?').pluck().get(fileName)
  due(-1)
  set('missing', null)
  await handIn('found.txt', Buffer.from('The ford, found.')).expect(200)
  expect([script(), why('found.txt')]).toEqual([{ status: 'late', daysLate: 1 }, 'It was missing: it counts as late by 1 day.'])
  set('in', 20)
  await handIn('again.txt', Buffer.from('The ford, again.')).expect(200)
  expect([script(), why('again.txt')]).toEqual([
    { status: 'late', daysLate: 1 },
    'An earlier version was marked: it counts as late by 1 day.',
  ])
  set('held', null)
  await handIn('held.txt', Buffer.from('The ford, held.')).expect(200)
  expect([script(), why('held.txt')]).toEqual([{ status: 'held', daysLate: 0 }, null])
  set('in', null)
  due(0)
})

test('neither text nor PDF, too large, or without a name is refused with what to do', async () => {
  expect(detail(await handIn('map.zip', Buffer.from([0x50, 0x4b, 0, 1])).expect(422))).toMatch(/save it as a PDF/)
  expect(detail(await handIn('map.pdf', Buffer.alloc(10_000_010)).expect(422))).toMatch(/over 10 MB/)
  await handIn(' ', PDF).expect(422)
})

test('a work is taken so many times and so large together, and the page says so before', async () => {
  const count = () => server.db.prepare('SELECT count(*) FROM delivery WHERE script_id = ?').pluck().get(`${MAP}:${studentId}`) as number
  // As if what is kept already were large: with the next file it is too much.
  const { size } = server.db.prepare("SELECT content, length(content) AS size FROM delivery WHERE file_name = 'late.txt'").get() as {
    size: number
  }
  server.db.prepare("UPDATE delivery SET content = zeroblob(39990000) WHERE file_name = 'late.txt'").run()
  expect(detail(await handIn('more.txt', Buffer.from('More. '.repeat(4000))).expect(413))).toMatch(/come to 41 MB, and 40 MB are kept/)
  server.db.prepare("UPDATE delivery SET content = zeroblob(?) WHERE file_name = 'late.txt'").run(size)
  for (let n = count(); n < MOST_HAND_INS; n++) await handIn(`v${n}.txt`, Buffer.from(`Version ${n}.`)).expect(200)
  expect((await own()).handIn).toMatchObject({ open: false, why: expect.stringMatching(/handed in 10 versions/) as string })
  expect(detail(await handIn('one-more.txt', Buffer.from('Once more.')).expect(409))).toMatch(/handed in 10 versions/)
})

test('only what takes work here, is theirs and has not come back', async () => {
  expect(detail(await handIn('x.pdf', PDF, `${COURSE}-viva-1`).expect(409))).toMatch(/not handed in here/)
  await handIn('x.pdf', PDF, 'nothing').expect(404)
  await lead('patch', api('/student-view'), { assessmentId: `${COURSE}-field-book-1`, handedIn: true }).expect(200)
  expect((await own(`${COURSE}-field-book-1`)).handIn).toMatchObject({
    open: false,
    why: expect.stringMatching(/come back already/) as string,
  })
  expect(detail(await handIn('x.pdf', PDF, `${COURSE}-field-book-1`).expect(409))).toMatch(/come back already/)
  await lead('patch', api('/student-view'), { assessmentId: MAP, handedIn: false }).expect(200)
  // The receipts stay.
  expect((await own()).handIn).toMatchObject({ open: false })
  expect(detail(await handIn('x.pdf', Buffer.from('New.')).expect(409))).toMatch(/not handed in here/)
  await lead('patch', api('/student-view'), { assessmentId: 'nothing', handedIn: true }).expect(422)
})
