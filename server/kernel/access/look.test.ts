import { routes, type DeskScript, type PileScript, type Role, type Route } from '#contract'
import { SIGN_INS } from '../../testing/markers'
import { COURSE, serveDemo, type Client, type TestServer } from '../../testing/serve'

let server: TestServer
let marker: Client
let external: Client
beforeAll(async () => {
  server = await serveDemo()
  marker = await server.as('rune.daal')
  external = await server.as('tamsin.oyelaran.holt')
}, 60_000)
afterAll(() => server.close())

const all = Object.values<Route>(routes)
const pathOf = (r: Route) => r.path.replace(/:(\w+)/g, (_, name: string) => (name === 'courseId' ? COURSE : 'nobody'))
const call = (client: Client, r: Route) => client(r.method.toLowerCase() as 'get', pathOf(r), {})

const look = (client: Client, personId: string) => client('post', `/api/courses/${COURSE}/looks`, { personId })
const markerId = () => (server.db.prepare("SELECT id FROM person WHERE sign_in = 'rune.daal'").get() as { id: string }).id

/** What is said, but for the moment at which it is. */
const told = (answer: { text: string }) => answer.text.replace(/\d{4}-\d\d-\d\dT[\d:.]+Z/g, 'now')

test('what is sent is what the marker is sent; nothing can be changed; it is recorded, and ends', async () => {
  const lead = await server.as('ines.valdry')
  await look(lead, 'nobody').expect(422)
  await look(lead, markerId()).expect(204)
  for (const path of [`/api/courses/${COURSE}/piles`, `/api/courses/${COURSE}/marks.csv`])
    expect(told(await lead('get', path))).toEqual(told(await marker('get', path)))
  await lead('get', `/api/courses/${COURSE}/table`).expect(403)
  expect((await lead('get', '/api/session')).body).toMatchObject({ name: 'Ines Valdry', look: { courseId: COURSE, name: 'Rune Daal' } })
  const roles = (await lead('get', '/api/courses')).body as { id: string; role: Role }[]
  expect(roles.find((c) => c.id === COURSE)!.role).toBe('marker')
  expect(roles.find((c) => c.id === 'cfs118-2026')!.role).toBe('lead')
  for (const r of all.filter((r) => r.method !== 'GET' && r.access !== 'anyone' && !r.mayWhileLooking)) {
    const { status, body } = await call(lead, r)
    expect([r.path, status, (body as { detail: string }).detail]).toEqual([
      r.path,
      403,
      'You look at it as Rune Daal sees it: nothing can be changed until you look back.',
    ])
  }
  await lead('delete', '/api/look').expect(204)
  await lead('get', `/api/courses/${COURSE}/table`).expect(200)
  const { body } = await external('get', `/api/courses/${COURSE}/looks`).expect(200)
  const known = [{ by: 'Ines Valdry', as: 'Rune Daal', at: expect.any(String) as string, endedAt: expect.any(String) as string }]
  expect(body).toEqual(known)
  // Who was looked at is told; other markers are not.
  expect((await marker('get', `/api/courses/${COURSE}/looks`).expect(200)).body).toEqual(known)
  const other = await server.as(SIGN_INS[0])
  expect((await other('get', `/api/courses/${COURSE}/looks`).expect(200)).body).toEqual([])
})

test('it is for the lead, and goes with the session', async () => {
  await look(marker, markerId()).expect(403)
  const lead = await server.as('ines.valdry')
  await look(lead, markerId()).expect(204)
  await lead('delete', '/api/session').expect(204)
  expect(server.db.prepare('SELECT count(*) AS n FROM look WHERE ended_at IS NULL').get()).toEqual({ n: 0 })
  const again = await server.as('ines.valdry')
  await again('get', `/api/courses/${COURSE}/table`).expect(200)
})

test('what a marker has not handed in, and their stock of comments, are not part of what is seen', async () => {
  const course = 'cfs118-2026'
  const first = await server.as(SIGN_INS[0])
  const of = `/api/courses/${course}/assessments/${course}-sketch/pile`
  const [script] = ((await first('get', of).expect(200)).body as PileScript[]).filter((s) => s.state === 'untouched')
  const draft = {
    judged: { picks: { purpose: 6 }, judgement: null, mark: null },
    comment: 'HALF-DONE',
    criterionComments: {},
    notes: 'PRIVATE',
  }
  const body = { ...draft, gapMeant: false, afterSeeing: false, version: 0, state: 'draft' }
  await first('put', `${of}/${script!.studentId}/reading`, body).expect(200)
  await first('post', `/api/courses/${course}/kept-comments`, { words: 'OWN-STOCK' }).expect(200)
  const lead = await server.as('ines.valdry')
  const personId = server.db.prepare('SELECT id FROM person WHERE sign_in = ?').pluck().get(SIGN_INS[0]) as string
  await lead('post', `/api/courses/${course}/looks`, { personId }).expect(204)
  const seen = await Promise.all(
    [of, `${of}/${script!.studentId}`, `/api/courses/${course}/kept-comments`, `/api/courses/${course}/piles`].map((p) => lead('get', p)),
  )
  expect(seen.map((a) => a.status)).toEqual([200, 200, 200, 200])
  for (const { text } of seen) expect(text).not.toMatch(/HALF-DONE|PRIVATE|OWN-STOCK/)
  expect((seen[1]!.body as DeskScript).own).toMatchObject({ state: 'untouched', version: 0 })
  expect((seen[0]!.body as PileScript[]).find((s) => s.studentId === script!.studentId)!.state).toBe('untouched')
})
