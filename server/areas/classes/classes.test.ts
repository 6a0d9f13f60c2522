import type { ClassView, OwnWork } from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

const SECTION = `${COURSE}-section-5`
const path = api(`/sections/${SECTION}/class`)

const { server, lead } = demoServer()
let student: Client
let names: string[]
beforeAll(async () => {
  student = await server.as('student')
  names = server.db.prepare<[string], string>('SELECT name FROM student WHERE course_id = ?').pluck().all(COURSE)
}, 60_000)

const view = async (who = lead) => (await who('get', path).expect(200)).body as ClassView
const draw = async (anew: boolean) => (await lead('post', `${path}/code-names`, { anew }).expect(200)).body as ClassView
const called = ({ rows }: ClassView) => rows.map((r) => r.codeName)
const own = () =>
  server.db
    .prepare<[], { id: string; candidate: string; section: string }>(
      `SELECT s.id, s.candidate, e.section_id AS section FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL
       WHERE s.person_id = 'student' AND s.course_id = 'cfs214-2026'`,
    )
    .get()!

test('it names nobody, and shows marks that are out and of the others whether they came in', async () => {
  const { text } = await lead('get', path).expect(200)
  expect(names.filter((n) => text.includes(n))).toEqual([])
  const { assessments, rows } = await view()
  const at = (title: string) => assessments.findIndex((a) => a.title === title)
  const column = (title: string) => rows.map((r) => r.cells[at(title)])
  expect(column('Field book 1').filter((c) => typeof c === 'number').length).toBeGreaterThan(5)
  // Its marks are let out by hand, and were not yet.
  expect(column('Map project').filter((c) => typeof c === 'number')).toEqual([])
  expect(column('Map project').filter((c) => c === 'came in').length).toBeGreaterThan(5)
  expect(rows.map((r) => Number(r.number))).toEqual(rows.map((r) => Number(r.number)).sort((a, b) => a - b))
})

test('code names are drawn for those who have none, no two the same, and all anew where that is asked', async () => {
  expect(called(await view()).filter((n) => n !== null && n !== 'plover')).toEqual([])
  const first = called(await draw(false))
  expect(first).not.toContain(null)
  expect(new Set(first).size).toBe(first.length)
  expect(called(await draw(false))).toEqual(first)
  const second = called(await draw(true))
  expect(second).not.toEqual(first)
  expect(new Set(second).size).toBe(second.length)
})

test('a student is told their own and chooses another, but no name and nobody else’s', async () => {
  const put = (name: string) => student('put', api('/own-work/code-name'), { name })
  const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
  await put('north wind').expect(204)
  expect(((await student('get', api('/own-work'))).body as OwnWork).codeName).toBe('north wind')
  const me = server.db.prepare<[string], string>('SELECT name FROM student WHERE id = ?').pluck().get(own().id)!
  expect(detail(await put(`it is ${me.split(' ')[0]!.toUpperCase()}`).expect(422))).toMatch(/tells who you are/)
  const other = server.db
    .prepare<[string, string], string>('SELECT name FROM code_name WHERE course_id = ? AND student_id <> ? LIMIT 1')
    .pluck()
    .get(COURSE, own().id)!
  expect(detail(await put(other.toUpperCase()).expect(422))).toMatch(/is called .* already/)
  // Nor what looks like it, nor what somebody else is known by.
  expect(detail(await put(`${other[0]!}\u200b${other.slice(1)}`).expect(422))).toMatch(/is called .* already|hidden characters/)
  const { name, candidate } = server.db
    .prepare<[string, string], { name: string; candidate: string }>(
      'SELECT name, candidate FROM student WHERE course_id = ? AND id <> ? LIMIT 1',
    )
    .get(COURSE, own().id)!
  expect(detail(await put(name.split(' ').at(-1)!).expect(422))).toMatch(/name or number of somebody|tells who you are/)
  expect(detail(await put(candidate).expect(422))).toMatch(/name or number of somebody/)
  await put('x').expect(422)
})

test('a marker sees the sections that they teach', async () => {
  const marker = await server.as('rune.daal')
  await marker('get', path).expect(404)
  await marker('post', `${path}/code-names`, { anew: false }).expect(404)
  await marker('get', api(`/sections/${COURSE}-section-6/class`)).expect(200)
})
