import { routes, type Role, type Route } from '#contract'
import { COURSE, serveDemo, type Client, type TestServer } from '../../testing/serve'
import { sheetIn } from '../../testing/sheet-of'

let server: TestServer
const people: Partial<Record<Role | 'none' | 'admin' | 'roleless', Client>> = {}
beforeAll(async () => {
  server = await serveDemo()
  people.none = await server.as(null)
  people.lead = await server.as('ines.valdry')
  people.marker = await server.as('rune.daal')
  people.external = await server.as('tamsin.oyelaran.holt')
  people.student = await server.as('student')
  people.admin = await server.as('orsolya.tamm')
  server.db
    .prepare(
      "INSERT INTO person (id, name, sign_in, passphrase_hash) SELECT 'no-part', 'No Part', 'no.part', passphrase_hash FROM person WHERE id = 'lead'",
    )
    .run()
  people.roleless = await server.as('no.part')
}, 60_000)
afterAll(() => server.close())

const PARAMS: Record<string, string> = {
  courseId: COURSE,
  number: '9',
  componentId: 'nobody',
  assessmentId: 'nobody',
  decisionId: 'nobody',
  standardId: 'nobody',
  scriptId: 'nobody',
  sectionId: 'nobody',
  studentId: 'nobody',
  personId: 'nobody',
  markerId: 'nobody',
  exemplarId: 'nobody',
  outcomeId: 'nobody',
  evidenceId: 'nobody',
  groupId: 'nobody',
  questionId: 'nobody',
  token: 'nobody-has-this-private-address',
  suggestionId: 'nobody',
  commentId: 'nobody',
  deliveryId: 'nobody',
  sharingId: '1',
  letterId: 'nobody',
  attempt: '1',
  name: 'post',
  words: 'nobody',
  sessionId: 'nobody',
  setId: 'nobody',
  packageId: '00000000-0000-4000-8000-000000000000',
}
const pathOf = (r: Route) => r.path.replace(/:(\w+)/g, (_, name: string) => PARAMS[name]!)
const call = (client: Client, r: Route) => client(r.method.toLowerCase() as 'get', pathOf(r), r.method === 'GET' ? undefined : {})
const all = Object.entries<Route>(routes).filter(([name]) => name !== 'events' && name !== 'signOut')

test.each(all)('%s: nobody gets in without signing in unless it is for anyone', async (_, r) => {
  const { status } = await call(people.none!, r)
  if (r.access === 'anyone') expect(status).not.toBe(401)
  else expect(status).toBe(401)
})

describe.each(['lead', 'marker', 'external', 'student'] as const)('%s', (role) => {
  test.each(all)('%s', async (_, r) => {
    const { status, body } = await call(people[role]!, r)
    const may = r.access !== 'admin' && (!Array.isArray(r.access) || (r.access as Role[]).includes(role))
    // Starting a course is for who leads one, whatever their role here.
    if (may) expect(r === routes.startCourse ? [403, 422] : [200, 204, 401, 404, 422]).toContain(status)
    else {
      expect(status).toBe(403)
      expect((body as { detail: string }).detail).toMatch(/^That is for /)
    }
    if (may && Array.isArray(r.access)) expect(status).not.toBe(401)
  })
})

test.each(all)('who administers and has no part in the course: %s', async (_, r) => {
  const { status } = await call(people.admin!, r)
  // No course is there for them, and so no mark; the installation is.
  if (Array.isArray(r.access)) expect(status).toBe(404)
  else expect(status).not.toBe(403)
})

test.each(all)('who has no part anywhere: %s', async (_, r) => {
  const { status } = await call(people.roleless!, r)
  if (Array.isArray(r.access)) expect(status).toBe(404)
  else if (r.access === 'admin') expect(status).toBe(403)
  else expect(r === routes.startCourse ? [403, 422] : [200, 204, 404, 422]).toContain(status)
})

test('a course of others is not there, whatever the route', async () => {
  server.db.prepare('DELETE FROM course_role WHERE course_id = ? AND person_id = ?').run('cfs118-2026', 'marker-6')
  for (const [, r] of all.filter(([, r]) => Array.isArray(r.access))) {
    const path = pathOf(r).replace(COURSE, 'cfs118-2026')
    expect((await people.marker!(r.method.toLowerCase() as 'get', path, r.method === 'GET' ? undefined : {})).status).toBe(404)
  }
})

test('a marker is sent the students of their own section, and no reading of anyone', async () => {
  const { body } = await people.marker!('get', `/api/courses/${COURSE}/sheet`).expect(200)
  const sheet = sheetIn(body)
  expect(sheet.sections.map((s) => s.name)).toEqual(['Octant'])
  expect(new Set(sheet.students.map((s) => s.sectionId)).size).toBe(1)
  const read = sheet.cells.filter((c) => c.fromReadings)
  expect(read.length).toBeGreaterThan(20)
  expect(read.every((c) => c.fromReadings!.mark === null && c.fromReadings!.readings === 0)).toBe(true)
})

test('a marker writes in their own section only', async () => {
  const write = (studentId: string) =>
    people.marker!('patch', `/api/courses/${COURSE}/sheet`, {
      cells: [{ studentId, assessmentId: `${COURSE}-stereo`, version: 1, mark: 12, status: 'in', daysLate: 0 }],
    })
  const own = await write(`${COURSE}-student-6`).expect(200)
  expect(own.body).toMatchObject({ saved: [{ mark: 12 }], refused: [] })
  const other = await write(`${COURSE}-student-1`).expect(200)
  expect(other.body).toMatchObject({ saved: [], refused: [{ kind: 'not yours', current: null }] })
})

test('changes from another site are refused, signed in or not', async () => {
  const answer = await fetch(`${server.address}/api/session`, {
    method: 'POST',
    headers: { origin: 'http://elsewhere.example', 'content-type': 'application/json' },
    body: '{}',
  })
  expect(answer.status).toBe(403)
  const bare = await fetch(`${server.address}/api/session`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' })
  expect(bare.status).toBe(403)
})

test('the session cookie is out of reach of scripts and of other sites, and a new one comes with every sign-in', async () => {
  const enter = () => people.none!('post', '/api/session', { signIn: 'ines.valdry', passphrase: 'level-with-me' }).expect(200)
  const [a, b] = [await enter(), await enter()].map((r) => String(r.headers['set-cookie']))
  expect(a).toMatch(/HttpOnly/)
  expect(a).toMatch(/SameSite=Strict/)
  expect(a).not.toBe(b)
  expect(JSON.stringify(server.db.prepare('SELECT * FROM session').all())).not.toContain(a!.split('=')[1]!.split(';')[0])
})

test('a wrong passphrase says so, and too many tries have to wait', async () => {
  const wrong = () => people.none!('post', '/api/session', { signIn: 'ines.valdry', passphrase: 'guess' })
  const first = await wrong().expect(401)
  expect(first.headers['content-type']).toMatch('application/problem+json')
  expect((first.body as { detail: string }).detail).toBe('That name and passphrase do not go together.')
  const answers = []
  for (let i = 0; i < 25; i++) answers.push((await wrong()).status)
  expect(answers).toContain(429)
})

test('the API description names every route, and pages carry a strict content security policy', async () => {
  const answer = await people.none!('get', '/api/openapi.json').expect(200)
  const { paths, openapi } = answer.body as { openapi: string; paths: Record<string, object> }
  expect(openapi).toBe('3.1.0')
  const described = Object.entries(paths).flatMap(([path, methods]) => Object.keys(methods).map((m) => `${m} ${path}`))
  expect(described.sort()).toEqual(
    Object.values<Route>(routes)
      .map((r) => `${r.method.toLowerCase()} ${r.path.replace(/:(\w+)/g, '{$1}')}`)
      .sort(),
  )
  expect(answer.headers['content-security-policy']).toContain("default-src 'none'")
  expect(answer.headers['content-security-policy']).not.toContain('unsafe')
})
