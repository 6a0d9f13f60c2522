import { routes, type PileScript, type Role, type Route, type Sees, type SheetInColumns } from '#contract'
import { SIGN_INS } from '../../testing/markers'
import { sheetIn } from '../../testing/sheet-of'
import { serveDemo, type Client, type TestServer } from '../../testing/serve'

/*
 * Walks every route as every role, with every kind of blindness, and looks for what should not be in an answer: names,
 * marks, comments and notes. Files and refusals are answers too.
 */
const COURSE = 'cfs118-2026'
const SKETCH = `${COURSE}-sketch`
const READER = 'marker-1'
const OTHER = 'marker-2'
/** Said by the other reader and nowhere else. */
const SECRET = { marks: '17.173', comments: 'OTHERS-COMMENT', notes: 'OTHERS-NOTE' }

let server: TestServer
const people: Partial<Record<Role, Client>> = {}
let names: string[]
/** A student whose script both read, in the reader's own section. */
let studentId: string
let sectionId: string
let params: Record<string, string>

beforeAll(async () => {
  server = await serveDemo()
  const { db } = server
  people.lead = await server.as('ines.valdry')
  people.marker = await server.as(SIGN_INS[0])
  people.external = await server.as('tamsin.oyelaran.holt')
  people.student = await server.as('student')
  const one = <T>(sql: string, ...values: unknown[]) => db.prepare(sql).get(...values) as T
  sectionId = one<{ id: string }>('SELECT id FROM section WHERE course_id = ? LIMIT 1', COURSE).id
  db.prepare('UPDATE section SET teacher_id = ? WHERE id = ?').run(READER, sectionId)
  // Nobody's mark but the other reader's is the one that is looked for.
  studentId = one<{ id: string }>(
    `SELECT a.student_id AS id FROM allotment a JOIN script s ON s.assessment_id = a.assessment_id AND s.student_id = a.student_id
     JOIN enrolment e ON e.student_id = a.student_id AND e.to_day IS NULL
     WHERE a.assessment_id = ? AND a.marker_id = ? AND e.section_id = ? AND NOT EXISTS (SELECT 1 FROM reading r WHERE r.script_id = s.id)`,
    SKETCH,
    READER,
    sectionId,
  ).id
  const scriptId = `${SKETCH}:${studentId}`
  const standard = one<{ id: string }>('SELECT standard_id AS id FROM assessment WHERE id = ?', SKETCH).id
  db.prepare(
    `INSERT INTO reading (id, script_id, marker_id, standard_id, mark, picks, comment, criterion_comments, notes, state, handed_in_at)
     VALUES (?, ?, ?, ?, ?, '{"purpose":8}', ?, ?, ?, 'handed in', '2026-11-24T10:00:00.000Z')`,
  ).run('others', scriptId, OTHER, standard, Number(SECRET.marks), SECRET.comments, `{"relief":"${SECRET.comments}"}`, SECRET.notes)
  // Somebody else's own section, with a mark typed in its sheet.
  const elsewhere = one<{ id: string }>(
    `SELECT s.id FROM script s JOIN enrolment e ON e.student_id = s.student_id AND e.to_day IS NULL
     WHERE s.assessment_id = ? AND e.section_id <> ? LIMIT 1`,
    `${COURSE}-walk-1`,
    sectionId,
  ).id
  db.prepare('UPDATE script SET entered = ?, version = version + 1 WHERE id = ?').run(Number(SECRET.marks), elsewhere)
  names = (db.prepare('SELECT name FROM student WHERE course_id = ?').all(COURSE) as { name: string }[]).map((s) => s.name)
  params = {
    courseId: COURSE,
    assessmentId: SKETCH,
    studentId,
    scriptId,
    sectionId,
    standardId: standard,
    markerId: OTHER,
    personId: READER,
    componentId: one<{ id: string }>('SELECT id FROM component WHERE course_id = ?', COURSE).id,
    decisionId: 'nothing',
    exemplarId: one<{ id: string }>('SELECT id FROM exemplar LIMIT 1').id,
    suggestionId: 'nothing',
    outcomeId: 'outcome-generalise',
    evidenceId: 'nothing',
    groupId: 'nothing',
    questionId: 'nothing',
    token: 'nobody-has-this-private-address',
    commentId: 'nothing',
    deliveryId: 'nothing',
    sharingId: '1',
    letterId: 'nothing',
    number: '1',
    attempt: '1',
    name: 'post',
  }
}, 60_000)
afterAll(() => server.close())

/** Everything a person is told by all routes: answers, files and refusals; events by themselves. */
async function told(who: Client): Promise<Map<string, string>> {
  const said = new Map<string, string>()
  for (const [name, r] of Object.entries<Route>(routes)) {
    if (['events', 'signOut', 'signIn', 'directory'].includes(name)) continue
    const path = r.path.replace(/:(\w+)/g, (_, p: string) => encodeURIComponent(params[p]!))
    const answer = await who(r.method.toLowerCase() as 'get', path, r.method === 'GET' ? undefined : {})
      .buffer(true)
      .parse((res, done) => {
        let text = ''
        res.setEncoding('latin1')
        res.on('data', (part: string) => (text += part))
        res.on('end', () => done(null, text))
      })
    const text = Buffer.from(String(answer.body), 'latin1').toString('utf8')
    // What travels in columns is looked through as it is read.
    said.set(name, name === 'sheet' && answer.status === 200 ? JSON.stringify(sheetIn(JSON.parse(text))) : text)
  }
  // What is refused in a file or a cell is told in words: they must not say more than the rest.
  const say = async (name: string, path: string, body: object, method: 'post' | 'patch' | 'put' = 'post') =>
    said.set(name, (await who(method, `/api/courses/${COURSE}${path}`, body)).text)
  const candidates = server.db.prepare('SELECT candidate FROM student WHERE course_id = ?').all(COURSE) as { candidate: string }[]
  const text = ['candidate,Sketch map,Ridge walk', ...candidates.map((c) => `${c.candidate},12,999`)].join('\n')
  await say('a file tried', '/marks-file/try', { text })
  const at = { studentId, version: 0, mark: 12, status: 'in', daysLate: 0 }
  await say('cells refused', '/sheet', { cells: [{ ...at, assessmentId: SKETCH, version: 99 }] }, 'patch')
  await say('another’s draft', `/assessments/${SKETCH}/pile/${studentId}/reading`, { version: 7 }, 'put')
  return said
}

const finding = (said: Map<string, string>, words: readonly string[]) =>
  [...said].flatMap(([route, text]) => words.filter((w) => text.includes(w)).map((w) => `${route}: ${w}`))
const setNames = (on: boolean) =>
  server.db
    .prepare('UPDATE course SET names_to_markers = ?, version = version + 1, plan_version = plan_version + 1 WHERE id = ?')
    .run(Number(on), COURSE)
const setBlind = (blind: boolean, sees: Sees) =>
  people.lead!('put', `/api/courses/${COURSE}/assessments/${SKETCH}/blindness`, { blind, sees }).expect(204)
/** What the reader's desk calls the script that both read. */
async function deskId(): Promise<string> {
  await setBlind(true, NOTHING)
  await people.marker!('get', `/api/courses/${COURSE}/assessments/${SKETCH}/pile`).expect(200)
  return server.db
    .prepare('SELECT id FROM blind_script WHERE assessment_id = ? AND student_id = ?')
    .pluck()
    .get(SKETCH, studentId) as string
}
const NOTHING: Sees = { marks: false, comments: false, notes: false }
const ALL: Sees = { marks: true, comments: true, notes: true }
const secrets = Object.values(SECRET)

test('what is looked for is there: the lead is told all of it, and the external too', async () => {
  for (const role of ['lead', 'external'] as const) {
    const said = await told(people[role]!)
    expect(finding(said, [SECRET.marks, SECRET.comments]).length).toBeGreaterThan(1)
    expect(finding(said, [SECRET.marks])).toContain(`sheet: ${SECRET.marks}`)
    expect(finding(said, names.slice(0, 3)).length).toBeGreaterThan(2)
  }
})

test.each([
  [true, NOTHING],
  [true, ALL],
  [false, NOTHING],
  [false, ALL],
])(
  'a marker before handing in, blind %s, others seen %j: no word of the other reading, no mark of another section',
  async (blind, sees) => {
    await setBlind(blind, sees)
    setNames(true)
    expect(finding(await told(people.marker!), secrets)).toEqual([])
  },
)

test.each([true, false])('a marker of a course without names, blind %s, is told no name by any route', async (blind) => {
  await setBlind(blind, ALL)
  setNames(false)
  expect(finding(await told(people.marker!), names)).toEqual([])
})

test('a marker who may see names is told those of their own sections and of no other', async () => {
  await setBlind(true, ALL)
  setNames(true)
  const own = server.db
    .prepare('SELECT s.name FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL WHERE e.section_id = ?')
    .pluck()
    .all(sectionId) as string[]
  const said = await told(people.marker!)
  expect(finding(said, own).length).toBeGreaterThan(5)
  expect(
    finding(
      said,
      names.filter((n) => !own.includes(n)),
    ),
  ).toEqual([])
})

/** What the desk calls scripts that are read blind, and what everything else calls their students. */
async function behindTheNumbers() {
  const getPile = async () =>
    (await people.marker!('get', `/api/courses/${COURSE}/assessments/${SKETCH}/pile`).expect(200)).body as PileScript[]
  await getPile()
  // A number that is drawn can be that of a year or a limit as well; these stand for nothing else.
  server.db.prepare('UPDATE blind_script SET number = 7310000 + rowid').run()
  const pile = await getPile()
  const students = server.db.prepare('SELECT id, name, candidate, external_id AS outside FROM student WHERE course_id = ?').all(COURSE) as {
    id: string
    name: string
    candidate: string
    outside: string | null
  }[]
  return {
    desk: pile.flatMap((s) => [s.studentId, s.label]),
    known: students.flatMap((s) => [s.id, s.name, s.candidate, s.outside ?? s.id]),
    pile,
  }
}
const ON_THE_DESK = ['pile', 'deskScript']
const split = (said: Map<string, string>) => ({
  onDesk: new Map([...said].filter(([route]) => ON_THE_DESK.includes(route))),
  elsewhere: new Map([...said].filter(([route]) => !ON_THE_DESK.includes(route))),
})

test('what a script is called while it is read blind is told by the desk alone, and the desk tells nothing else of whose it is', async () => {
  await setBlind(true, ALL)
  setNames(true)
  const { desk, known, pile } = await behindTheNumbers()
  expect(pile.length).toBeGreaterThan(3)
  const script = (await people.marker!('get', `/api/courses/${COURSE}/assessments/${SKETCH}/pile/${pile[0]!.studentId}`).expect(200)).text
  const { onDesk, elsewhere } = split(await told(people.marker!))
  // What stands by chance in an id is not told.
  const words = new Map(
    [...onDesk.set('a script', script)].map(([route, text]) => [route, text.replaceAll(/[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}/g, '')]),
  )
  expect(finding(words, known)).toEqual([])
  const again = [...elsewhere].flatMap(([route, text]) =>
    desk.filter((d) => new RegExp(`(?<![\\w-])${d}(?![\\w-])`).test(text)).map((d) => `${route}: ${d}`),
  )
  expect(again).toEqual([])
})

test('handing one in changes nothing that the sheet, files and events tell of anybody', async () => {
  await setBlind(true, ALL)
  setNames(true)
  const { pile } = await behindTheNumbers()
  const sheet = async () => (await people.marker!('get', `/api/courses/${COURSE}/sheet`).expect(200)).body as SheetInColumns
  const csv = async () =>
    (await people.marker!('get', `/api/courses/${COURSE}/marks.csv`).expect(200)).text.replaceAll(/\d{4}-\d\d-\d\dT[\d:.]+Z/g, 'now')
  const before = [await sheet(), await csv()] as const
  const open = pile.find((s) => s.state === 'untouched' && s.studentId !== params.studentId)!
  const body = { judged: { picks: { purpose: 8 }, judgement: null, mark: null }, comment: '', criterionComments: {}, notes: '' }
  const path = `/api/courses/${COURSE}/assessments/${SKETCH}/pile/${open.studentId}/reading`
  await people.marker!('put', path, { ...body, gapMeant: true, afterSeeing: false, version: 0, state: 'handed in' }).expect(200)
  const since = await people.marker!('get', `/api/courses/${COURSE}/sheet/since/${before[0].version}`).expect(200)
  expect((since.body as { cells: unknown }).cells).toEqual([])
  expect({ ...(await sheet()), version: before[0].version }).toEqual(before[0])
  expect(await csv()).toBe(before[1])
})

test.each([
  [{ marks: true, comments: false, notes: false }],
  [{ marks: false, comments: true, notes: false }],
  [{ marks: false, comments: false, notes: true }],
])('after handing in, %j is seen and nothing else', async (sees) => {
  const onDesk = await deskId()
  const path = `/api/courses/${COURSE}/assessments/${SKETCH}/pile/${onDesk}/reading`
  const state = server.db.prepare('SELECT version FROM reading WHERE script_id = ? AND marker_id = ?').get(params.scriptId, READER) as
    { version: number } | undefined
  const body = {
    judged: { picks: { purpose: 8 }, judgement: null, mark: null },
    comment: '',
    criterionComments: {},
    notes: '',
    gapMeant: true,
    afterSeeing: false,
  }
  if (!state) await people.marker!('put', path, { ...body, version: 0, state: 'handed in' }).expect(200)
  params.studentId = await deskId()
  await setBlind(true, sees)
  const said = await told(people.marker!)
  params.studentId = studentId
  const seen = (Object.keys(SECRET) as (keyof typeof SECRET)[]).filter((k) => finding(said, [SECRET[k]]).length > 0)
  expect(seen).toEqual((Object.keys(sees) as (keyof typeof sees)[]).filter((k) => sees[k]))
  // By the desk and by nothing else.
  expect(finding(said, secrets).every((f) => f.startsWith('deskScript: '))).toBe(true)
})

test('a student is told of nobody else, and of no reading', async () => {
  const said = await told(people.student!)
  const own = server.db.prepare("SELECT s.name FROM student s JOIN person p ON p.id = s.person_id WHERE p.sign_in = 'student'").all() as {
    name: string
  }[]
  expect(finding(said, [...secrets, ...names.filter((n) => !own.some((o) => o.name === n))])).toEqual([])
})

test('events tell that something changed, and not what', async () => {
  const listener = await server.listen(SIGN_INS[0], COURSE)
  await listener.until((heard) => heard.includes('\n\n'))
  setNames(true)
  await setBlind(true, ALL)
  const heard = await listener.until((all) => all.split('data: ').length > 2 && all.endsWith('\n\n'))
  listener.end()
  expect(heard).toMatch(/^((data: \d+|: still here)\n\n)+$/)
})
