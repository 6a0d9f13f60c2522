import { shiftDay } from '#core/roll'
import { routes, type ClassView, type OwnWork, type Release, type Route } from '#contract'
import { clockIn, machineZone } from '../../kernel/clock'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

/*
 * Every answer that a student can be given, under every rule of release: what came of the work must be in none of them
 * before it is out, and in their own page once it is.
 */
const ITEM = `${COURSE}-field-book-1`
const today = clockIn(machineZone()).today()
const SECRET = { mark: '17.173', words: 'SAID-OF-IT', criterion: 'ON-A-CRITERION', points: '6.321' }

const { server, lead } = demoServer()
let student: Client
let nobody: Client
let studentId: string
let params: Record<string, string>
beforeAll(async () => {
  student = await server.as('student')
  nobody = await server.as(null)
  const { db } = server
  studentId = db.prepare<[], string>("SELECT id FROM student WHERE person_id = 'student' AND course_id = 'cfs214-2026'").pluck().get()!
  const scriptId = `${ITEM}:${studentId}`
  db.prepare("UPDATE script SET entered = NULL, status = 'in', days_late = 0 WHERE id = ?").run(scriptId)
  db.prepare(
    "UPDATE reading SET mark = ?, comment = ?, criterion_comments = ?, picks = json_set(picks, '$.entries', ?) WHERE script_id = ?",
  ).run(Number(SECRET.mark), SECRET.words, JSON.stringify({ entries: SECRET.criterion }), Number(SECRET.points), scriptId)
  db.prepare('UPDATE placement SET due = ? WHERE assessment_id = ?').run(shiftDay(today, -2), ITEM)
  // What a student is shown most of is where most could be let slip.
  await lead('patch', api('/student-view'), { soFar: true }).expect(200)
  await lead('patch', api('/student-view'), { askDays: 30 }).expect(200)
  await lead('patch', api('/student-view'), { assessmentId: ITEM, handedIn: true }).expect(200)
  const { body } = await student('post', '/api/account/calendar').expect(200)
  const section = db
    .prepare<[string], string>('SELECT section_id FROM enrolment WHERE student_id = ? AND to_day IS NULL')
    .pluck()
    .get(studentId)!
  params = {
    courseId: COURSE,
    assessmentId: ITEM,
    studentId,
    scriptId,
    sectionId: section,
    personId: 'student',
    number: '1',
    attempt: '1',
    token: (body as { address: string }).address.split('/').at(-2)!,
  }
}, 60_000)

function release(rule: Release): void {
  server.db.prepare('UPDATE placement SET release = ? WHERE assessment_id = ?').run(JSON.stringify(rule), ITEM)
  server.db.prepare('UPDATE course SET version = version + 1, plan_version = plan_version + 1 WHERE id = ?').run(COURSE)
}
const pathOf = (r: Route) => r.path.replace(/:(\w+)/g, (_, name: string) => params[name] ?? 'nothing')
const reads = Object.entries<Route>(routes).filter(([name, r]) => r.method === 'GET' && name !== 'events')
const told = (text: string) => Object.values(SECRET).filter((s) => text.includes(s))
const whole = async (who: Client, path: string): Promise<string> => {
  const { text, body } = await who('get', path)
  return text ?? (Buffer.isBuffer(body) ? body.toString('latin1') : JSON.stringify(body))
}

const NOT_OUT: [string, Release][] = [
  ['on a day to come', { kind: 'on', day: shiftDay(today, 1) }],
  ['days after the due day that are not over', { kind: 'days', days: 3 }],
  ['once results are confirmed', { kind: 'confirmed' }],
  ['by hand, and not let out', { kind: 'by hand', released: false }],
]
const OUT: [string, Release][] = [
  ['at once', { kind: 'at once' }],
  ['on a day that is here', { kind: 'on', day: today }],
  ['days after the due day that are over', { kind: 'days', days: 2 }],
  ['by hand, and let out', { kind: 'by hand', released: true }],
]

describe.each(NOT_OUT)('%s', (_, rule) => {
  beforeAll(() => release(rule))

  test('no answer to a student, or to whoever has their address, says what came of it', async () => {
    for (const [name, r] of reads) {
      expect({ name, told: told(await whole(student, pathOf(r))) }).toEqual({ name, told: [] })
      if (r.access === 'anyone') expect({ name, told: told(await whole(nobody, pathOf(r))) }).toEqual({ name, told: [] })
    }
  })

  test('nothing that a student sends is answered with it either', async () => {
    const sent = [
      await student('post', api('/own-work/questions'), {
        assessmentId: ITEM,
        criterionId: 'entries',
        reason: 'Was it looked at in full?',
      }),
      await student('post', api(`/own-work/${ITEM}/attempts`), {
        fileName: 'a.txt',
        file: Buffer.from(`Anew ${rule.kind}.`).toString('base64'),
      }),
      await student('put', api('/own-work/code-name'), { name: 'wren' }),
    ]
    expect(sent[0]!.status).toBe(404)
    expect(sent.flatMap((s) => told(s.text ?? ''))).toEqual([])
  })

  test('the class sees that it came in, and no mark of it', async () => {
    const text = await whole(lead, api(`/sections/${params.sectionId}/class`))
    expect(told(text)).toEqual([])
    const { assessments, rows } = JSON.parse(text) as ClassView
    const at = assessments.findIndex((a) => a.id === ITEM)
    expect(rows.filter((r) => typeof r.cells[at] === 'number')).toEqual([])
  })
})

test.each(OUT)('%s: then it is in their own page, whole', async (_, rule) => {
  release(rule)
  const text = await whole(student, api('/own-work'))
  expect(told(text)).toEqual(Object.values(SECRET))
  const { work, course } = JSON.parse(text) as OwnWork
  expect(work.find((w) => w.id === ITEM)).toMatchObject({
    released: true,
    mark: Number(SECRET.mark),
    asking: { until: expect.any(String) as string },
  })
  expect(course!.marks.find((m) => m.assessmentId === ITEM)!.mark).toBe(Number(SECRET.mark))
})

test('a student’s page hears no events', async () => {
  await student('get', api('/events')).expect(403)
})
