import ICAL from 'ical.js'
import type { Letter, OwnWork, Plan, PlacementWrite } from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

const { server, lead } = demoServer()
let marker: Client
let student: Client
beforeAll(async () => {
  marker = await server.as('rune.daal')
  student = await server.as('student')
}, 60_000)

const plan = async () => (await lead('get', api('/plan')).expect(200)).body as Plan
const put = (placements: PlacementWrite[]) => lead('put', api('/placements'), { placements })
const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
const write = (change: Partial<PlacementWrite> = {}): PlacementWrite => ({
  assessmentId: `${COURSE}-open-day-map`,
  sectionId: `${COURSE}-section-1`,
  placed: true,
  due: '2026-11-30',
  release: { kind: 'confirmed' },
  ...change,
})

test('many are set at once, and the answer is the way back', async () => {
  const before = await plan()
  const writes = before.sections.map((s, i) =>
    write({ sectionId: s.id, due: `2026-12-0${i + 1}`, release: { kind: 'on', day: '2026-12-20' } }),
  )
  const answer = await put(writes).expect(200)
  const after = await plan()
  const at = after.assessments.findIndex((a) => a.id === writes[0]!.assessmentId)
  const own = after.placements.filter(([a]) => a === at)
  expect(own.map(([, , due]) => due).sort()).toEqual(writes.map((w) => w.due))
  expect(own.every(([, , , r]) => after.releases[r]!.kind === 'on')).toBe(true)
  await put((answer.body as { before: PlacementWrite[] }).before).expect(200)
  const back = await plan()
  expect(back.placements).toEqual(before.placements)
  expect(back.releases).toEqual(before.releases)
})

test('one with marks is not taken off, and nothing of a block that holds it is done', async () => {
  const before = await plan()
  const bad = write({ assessmentId: `${COURSE}-map`, placed: false })
  expect(detail(await put([write({ due: '2026-12-01' }), bad]).expect(409))).toMatch(
    /^Map project has \d+ marks in Alidade\. Leave its students out/,
  )
  expect((await plan()).placements).toEqual(before.placements)
  expect(detail(await put([write({ sectionId: 'nobody' })]).expect(422))).toMatch(/no such section/)
})

test('a finding is let stand with a reason and raised again', async () => {
  const key = `weekend|${COURSE}-plane-table|${COURSE}-section-4|2026-11-01`
  await lead('post', api('/accepted-findings'), { keys: [key], reason: ' ' }).expect(422)
  await lead('post', api('/accepted-findings'), { keys: [key], reason: 'A field day' }).expect(204)
  expect((await plan()).accepted).toEqual([expect.objectContaining({ key, reason: 'A field day', by: 'Ines Valdry' })])
  await lead('delete', api('/accepted-findings'), { keys: [key] }).expect(204)
  expect((await plan()).accepted).toEqual([])
})

describe('calendars', () => {
  const events = (text: string) => {
    const calendar = new ICAL.Component(ICAL.parse(text) as unknown[] as never)
    // Beside the days on which teaching begins and ends.
    return calendar
      .getAllSubcomponents('vevent')
      .map((e) => new ICAL.Event(e))
      .filter((e) => !e.summary.includes(': teaching '))
  }
  test('a section’s due days are whole-day events that another reader understands', async () => {
    const { text } = await lead('get', api(`/sections/${COURSE}-section-2/due.ics`)).expect(200)
    const p = await plan()
    const own = p.placements.filter(([, s, due]) => p.sections[s]!.name === 'Clinometer' && due !== null)
    const read = events(text)
    expect(read).toHaveLength(own.length)
    const run = read.find((e) => e.summary === 'Levelling run due, Clinometer')!
    expect(run.startDate.isDate).toBe(true)
    expect(run.startDate.toString()).toBe('2026-09-29')
    expect(run.endDate.toString()).toBe('2026-09-30')
    expect(new Set(read.map((e) => e.uid)).size).toBe(read.length)
    expect(text.split('\r\n').every((line) => Buffer.byteLength(line) <= 75)).toBe(true)
  })
  test('a marker gets their own and no other', async () => {
    const own = await marker('get', api('/people/marker-6/due.ics')).expect(200)
    expect(events(own.text).every((e) => e.summary.endsWith('Octant'))).toBe(true)
    await marker('get', api('/people/marker-5/due.ics')).expect(404)
    await marker('get', api(`/sections/${COURSE}-section-1/due.ics`)).expect(404)
    await marker('get', api(`/sections/${COURSE}-section-6/due.ics`)).expect(200)
  })
})

test('a student is sent what is released and nothing else', async () => {
  const own = async () => (await student('get', api('/own-work')).expect(200)).body as OwnWork
  const first = await own()
  const of = (work: OwnWork, title: string) => work.work.find((w) => w.assessment === title)!
  expect(of(first, 'Field book 1')).toMatchObject({ released: true, outOf: 35 })
  expect(of(first, 'Field book 1').mark).not.toBeNull()
  // What it is judged by and the exemplars shown are no secret of the student's mark; the tuning tests are about them.
  const { standard: _, exemplars: __, ...map } = of(first, 'Map project')
  expect(map).toEqual({
    id: `${COURSE}-map`,
    asking: null,
    // That its work is handed in here is no secret of the mark.
    handIn: expect.objectContaining({ open: true }) as object,
    assessment: 'Map project',
    due: expect.stringMatching(/^2026-1/) as string,
    released: false,
    levels: null,
    mark: null,
    outOf: null,
    status: null,
    remarks: [],
  })
  const section = (await plan()).sections.find((s) => s.name === first.section)!
  await put([
    write({
      assessmentId: `${COURSE}-field-book-1`,
      sectionId: section.id,
      due: '2026-10-05',
      release: { kind: 'by hand', released: false },
    }),
  ]).expect(200)
  expect(of(await own(), 'Field book 1')).toMatchObject({ released: false, mark: null, status: null })
  await student('get', api('/table')).expect(403)
})

test('a mark that is let out by hand is told to the student in a letter, once, and not while it is looked into', async () => {
  const [script] = server.db
    .prepare<[], { id: string; assessmentId: string; title: string; sectionId: string }>(
      `SELECT x.id, a.id AS assessmentId, a.title, e.section_id AS sectionId FROM script x JOIN assessment a ON a.id = x.assessment_id
       JOIN student s ON s.id = x.student_id AND s.person_id = 'student' JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL
       WHERE x.entered IS NOT NULL AND x.status = 'in' ORDER BY a.position LIMIT 1`,
    )
    .all()
  const { assessmentId, title, sectionId } = script!
  const letters = async () =>
    ((await lead('get', api('/letters')).expect(200)).body as Letter[]).filter((l) => l.subject.includes(title)).map((l) => l.subject)
  const out = (released: boolean) => put([write({ assessmentId, sectionId, release: { kind: 'by hand', released } })]).expect(200)
  const status = (to: string) => server.db.prepare('UPDATE script SET status = ? WHERE id = ?').run(to, script!.id)
  status('held')
  await out(true)
  expect(await letters()).toEqual([])
  status('in')
  await out(false)
  expect(await letters()).toEqual([])
  await out(true)
  expect(await letters()).toEqual([`CFS 214: your mark in ${title} is out`])
  // Nothing new is let out by writing it once more.
  await out(true)
  expect(await letters()).toHaveLength(1)
})
