import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import type { Collected, Deliveries, DeliveryRow, DeskScript, Letter, PileScript } from '#contract'
import { SIGN_INS } from '../../testing/markers'
import { demoServer, type Client } from '../../testing/serve'

const COURSE = 'cfs118-2026'
const SKETCH = `${COURSE}-sketch`
const api = (path: string) => `/api/courses/${COURSE}${path}`
const installed = (path: string) => `/api/installation/courses/${COURSE}${path}`
const PDF = Buffer.from('%PDF-1.4\n%%EOF')

const { server, lead } = demoServer()
let marker: Client
let admin: Client
let other: Client
let folder: string
/** Students whose sketch the marker has not begun. */
let waiting: PileScript[]
const box: { name: string; line: string; content: Buffer | string | null }[] = []

beforeAll(async () => {
  admin = await server.as('orsolya.tamm')
  marker = await server.as(SIGN_INS[0])
  other = await server.as(SIGN_INS[1])
  folder = join(dirname(server.file), 'submission-box', COURSE)
  mkdirSync(folder, { recursive: true })
  waiting = (await pile()).filter((s) => s.state === 'untouched')
}, 60_000)

const pile = async () => (await marker('get', api(`/assessments/${SKETCH}/pile`)).expect(200)).body as PileScript[]
const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
const candidateOf = (studentId: string) =>
  (server.db.prepare('SELECT candidate FROM student WHERE id = ?').get(studentId) as { candidate: string }).candidate
const desk = async (studentId: string) =>
  (await marker('get', api(`/assessments/${SKETCH}/pile/${studentId}`)).expect(200)).body as DeskScript
const scriptOf = (studentId: string) =>
  server.db
    .prepare('SELECT status, days_late AS daysLate, came_at AS cameAt FROM script WHERE assessment_id = ? AND student_id = ?')
    .get(SKETCH, studentId) as { status: string; daysLate: number; cameAt: string }

function put(name: string, candidate: string, assessment: string, at: string, content: Buffer | string | null): void {
  box.push({ name, line: [name, candidate, assessment, at].join(','), content })
  if (content !== null) writeFileSync(join(folder, name), content)
  writeFileSync(join(folder, 'deliveries.csv'), ['file,candidate,assessment,came at', ...box.map((b) => b.line), ''].join('\r\n'))
}
const collect = async () => (await lead('post', api('/deliveries/collect')).expect(200)).body as Collected
const listed = async () => (await lead('get', api('/deliveries')).expect(200)).body as Deliveries
const sort = (id: string, body: object) => lead('put', api(`/deliveries/${id}`), body)
const reading = (more: object = {}) => ({
  version: 0,
  state: 'draft',
  gapMeant: false,
  afterSeeing: false,
  judged: {
    picks: { purpose: 6, generalisation: 5.5, lettering: 5, relief: 8, sources: 4, 'sheet-rules': 0 },
    judgement: null,
    mark: null,
  },
  comment: '',
  criterionComments: {},
  notes: '',
  ...more,
})
const keep = (studentId: string, body: object) => marker('put', api(`/assessments/${SKETCH}/pile/${studentId}/reading`), body)

test('work is placed with its lateness; twice the same, strange and lost files are told apart; nothing is collected twice', async () => {
  const [late, twice] = waiting.map((s) => candidateOf(s.studentId))
  put('late.pdf', late!, 'sketch map', '2026-11-20T10:00:00Z', PDF)
  put('first.txt', twice!, 'Sketch map', '2026-11-10T10:00:00Z', 'The ground below the mill.')
  put('same.txt', twice!, 'Sketch map', '2026-11-10T10:05:00Z', 'The ground below the mill.')
  put('nobody.txt', '9', 'Sketch map', '2026-11-10T10:00:00Z', 'Whose?')
  put('elsewhere.txt', late!, 'Viva', '2026-11-10T10:00:00Z', 'Which?')
  put('strange.docx', late!, 'Sketch map', '2026-11-10T10:00:00Z', Buffer.from([0x50, 0x4b, 0, 1]))
  put('gone.txt', late!, 'Sketch map', '2026-11-10T10:00:00Z', null)
  put('../passwd', late!, 'Sketch map', '2026-11-10T10:00:00Z', null)
  put('undated.txt', late!, 'Sketch map', 'yesterday', 'When?')
  expect((await listed()).inBox).toBe(7)
  expect(await collect()).toEqual({
    placed: 2,
    waiting: 3,
    setAside: 1,
    faults: [
      'Line 9: “../passwd” is not the name of a file.',
      'Line 10, undated.txt: “yesterday” is not a date and time.',
      'gone.txt is in the list and not in the box.',
    ],
  })
  expect(await collect()).toMatchObject({ placed: 0, waiting: 0, setAside: 0 })

  const { list, counts } = await listed()
  expect(counts).toEqual({ placed: 2, waiting: 3, setAside: 1 })
  const whys = Object.fromEntries(list.map((d) => [d.fileName, d.why]))
  expect(whys).toEqual({
    'late.pdf': null,
    'first.txt': null,
    'same.txt': 'The same file came before.',
    'nobody.txt': 'Nobody on the roll has candidate number 9.',
    'elsewhere.txt': 'This course has no assessment “Viva”.',
    'strange.docx': 'It is neither text nor PDF: ask for it in one of the two.',
  })
  expect(scriptOf(waiting[0]!.studentId)).toMatchObject({ status: 'late', cameAt: '2026-11-20T10:00:00.000Z' })
  expect(scriptOf(waiting[1]!.studentId)).toMatchObject({ status: 'in', daysLate: 0 })
  const { attempts } = await desk(waiting[0]!.studentId)
  expect(attempts.map((a) => [a.number, a.kind])).toEqual([
    [1, 'text'],
    [2, 'pdf'],
  ])
  const file = await marker('get', api(`/assessments/${SKETCH}/pile/${waiting[0]!.studentId}/attempts/2`)).expect(200)
  expect(file.headers['content-type']).toBe('application/pdf')
  expect(file.body).toEqual(PDF)
})

test('a PDF is for those who read the script; a marker sees nothing of the box', async () => {
  const path = api(`/assessments/${SKETCH}/pile/${waiting[0]!.studentId}/attempts/2`)
  await other('get', path).expect(404)
  await lead('get', path).expect(200)
  await marker('get', api('/deliveries')).expect(403)
  const [{ id }] = (await listed()).list as [DeliveryRow]
  await marker('get', api(`/deliveries/${id}/file`)).expect(403)
  await lead('get', api(`/deliveries/${id}/file`)).expect(200)
})

test('what waits is sorted by hand, and goes back as long as nothing is built on it', async () => {
  const find = async (name: string) => (await listed()).list.find((d) => d.fileName === name)!
  const lost = await find('nobody.txt')
  const to = { to: 'script', studentId: waiting[2]!.studentId, assessmentId: SKETCH }
  expect(detail(await sort(lost.id, { ...to, assessmentId: `${COURSE}-nothing` }).expect(422))).toMatch(/no such student or assessment/)
  expect((await sort(lost.id, to).expect(200)).body).toMatchObject({ state: 'placed', attempt: 2, sortedBy: 'Ines Valdry', why: null })
  expect((await sort(lost.id, { to: 'waiting' }).expect(200)).body).toMatchObject({ state: 'waiting', studentId: null })
  expect((await desk(waiting[2]!.studentId)).attempts).toHaveLength(1)
  await sort(lost.id, to).expect(200)
  await keep(waiting[2]!.studentId, reading({ state: 'handed in' })).expect(200)
  expect(detail(await sort(lost.id, { to: 'set aside', why: 'Wrong.' }).expect(409))).toMatch(/has been read/)
  const strange = await find('strange.docx')
  expect(detail(await sort(strange.id, to).expect(422))).toMatch(/neither text nor PDF/)
  expect((await sort(strange.id, { to: 'set aside', why: 'Asked for a PDF.' }).expect(200)).body).toMatchObject({ why: 'Asked for a PDF.' })
})

test('a new attempt: the reading before it stands until that of the new one, which starts from it, is handed in', async () => {
  const id = waiting[3]!.studentId
  await keep(id, reading({ state: 'handed in', comment: 'Draw the ford.' })).expect(200)
  put('anew.txt', candidateOf(id), 'Sketch map', '2026-11-24T08:00:00Z', 'The ford, drawn.')
  await collect()
  expect((await pile()).find((s) => s.studentId === id)).toMatchObject({ again: true, state: 'untouched', mark: null })
  // It came after the due day, and the latest version counts: that is said where it came in.
  const rows = ((await lead('get', api('/deliveries')).expect(200)).body as Deliveries).list
  const days = scriptOf(id).daysLate
  expect(days).toBeGreaterThan(0)
  expect(rows.find((d) => d.fileName === 'anew.txt')!.why).toBe(
    `An earlier version was read: it counts as late by ${days} ${days === 1 ? 'day' : 'days'}.`,
  )
  const { before, own, attempts } = await desk(id)
  expect(before).toEqual({ attempt: 1, mark: 28.5 })
  expect(own).toMatchObject({ state: 'untouched', version: 0, comment: 'Draw the ford.', judged: { picks: { purpose: 6 } } })
  expect(attempts.at(-1)).toMatchObject({ number: 2, text: 'The ford, drawn.' })

  const better = { ...reading().judged, picks: { ...reading().judged.picks, generalisation: 5 } }
  expect((await keep(id, reading({ judged: better, comment: 'Better.' })).expect(200)).body).toEqual({
    version: 1,
    mark: 28,
    state: 'draft',
  })
  const standing = server.db.prepare("SELECT mark, attempt FROM reading WHERE marker_id = 'marker-1' AND script_id = ?")
  expect(standing.get(`${SKETCH}:${id}`)).toEqual({ mark: 28.5, attempt: 1 })
  expect((await desk(id)).own).toMatchObject({ state: 'draft', version: 1, comment: 'Better.' })
  await keep(id, reading({ version: 0, judged: better, comment: 'Other.' })).expect(409)
  const handIn = () => keep(id, reading({ version: 1, judged: better, comment: 'Better.', state: 'handed in' }))
  const done = await handIn().expect(200)
  expect(done.body).toEqual({ version: 2, mark: 28, state: 'handed in' })
  expect((await handIn().expect(200)).body).toEqual(done.body)
  expect(standing.get(`${SKETCH}:${id}`)).toEqual({ mark: 28, attempt: 2 })
  const kept = server.db.prepare('SELECT mark, attempt, comment FROM reading_state WHERE reading_id = ?').all(`${SKETCH}:${id}/marker-1`)
  expect(kept).toEqual([{ mark: 28.5, attempt: 1, comment: 'Draw the ford.' }])
  expect((await desk(id)).before).toBeNull()
})

test('a box that cannot be reached says so, and changes nothing', async () => {
  await admin('put', installed('/stand-ins/submission%20box'), { fails: true }).expect(204)
  expect((await listed()).inBox).toBeNull()
  expect(detail(await lead('post', api('/deliveries/collect')).expect(503))).toMatch(/submission box cannot be reached/)
  await admin('put', installed('/stand-ins/submission%20box'), { fails: false }).expect(204)
  writeFileSync(join(folder, 'deliveries.csv'), 'a,b\r\n1,2\r\n')
  expect(detail(await lead('post', api('/deliveries/collect')).expect(422))).toMatch(/needs the columns file, candidate, assessment/)
})

describe('reminders', () => {
  const remind = (markerIds: string[], words = '') => lead('post', api(`/assessments/${SKETCH}/reminders`), { markerIds, words })
  const letters = async (who: Client) => (await who('get', api('/letters')).expect(200)).body as Letter[]

  test('who has something left gets a letter, which they and the lead can read, and which lies in the post as a file', async () => {
    await lead('put', api(`/assessments/${SKETCH}/markers/marker-1/deadline`), { due: '2026-12-04' }).expect(204)
    expect((await remind(['marker-1', 'marker-4'], 'Ask me if it is too much: ä, 字.').expect(200)).body).toEqual({ sent: 1 })
    const [letter] = await letters(marker)
    expect(letter).toMatchObject({
      by: 'Ines Valdry',
      to: 'Tadesse Abara',
      subject: expect.stringMatching(/^Sketch map: \d+ left to read$/),
    })
    expect(letter!.body).toContain('wanted by Friday 4 December')
    expect(await letters(other)).toEqual([])
    expect(await letters(lead)).toHaveLength(1)
    await other('get', api(`/letters/${letter!.id}/letter.eml`)).expect(404)
    const file = readFileSync(join(dirname(server.file), 'post', COURSE, `${letter!.id}.eml`), 'utf8')
    expect(file).toMatch(/^To: Tadesse Abara <tadesse\.abara@post\.invalid>\r$/m)
    const sent = await marker('get', api(`/letters/${letter!.id}/letter.eml`))
      .buffer(true)
      .parse((res, done) => {
        let text = ''
        res.on('data', (part: Buffer) => (text += part.toString()))
        res.on('end', () => done(null, text))
      })
    expect(sent.body).toBe(file)
  })

  test('nobody to remind, strangers, and a post that fails are refused, and nothing is sent', async () => {
    expect(detail(await remind(['marker-4']).expect(422))).toMatch(/None of them has anything left/)
    await remind(['nobody']).expect(422)
    await admin('put', installed('/stand-ins/post'), { fails: true }).expect(204)
    expect(detail(await remind(['marker-1']).expect(503))).toMatch(/post cannot be reached/)
    expect(await letters(lead)).toHaveLength(1)
    const standIns = (await lead('get', api('/stand-ins')).expect(200)).body as { now: unknown[]; list: { by: string }[] }
    expect(standIns.now).toContainEqual({ name: 'post', fails: true })
    // Of this course alone, and on a list with who did it.
    expect(standIns.list[0]).toEqual({ name: 'post', fails: true, by: 'Orsolya Tamm', at: expect.any(String) as string })
    const other = (await lead('get', '/api/courses/cfs214-2026/stand-ins').expect(200)).body as { now: unknown[]; list: unknown[] }
    expect([other.now, other.list]).toEqual([
      [
        { name: 'submission box', fails: false },
        { name: 'post', fails: false },
        { name: 'records office', fails: false },
      ],
      [],
    ])
  })
})
