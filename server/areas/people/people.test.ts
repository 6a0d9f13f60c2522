import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import type { Account, AuditRow, CoursePerson, InstalledCourse, ListedPerson, TriedPeople, WayIn } from '#contract'
import { COURSE, serveDemo, serveEmpty, type Client, type TestServer } from '../../testing/serve'

const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
const field = (answer: { body: unknown }) => (answer.body as { field?: string }).field
const GOOD = 'slow barges under alder'
const tokenOf = (link: string) => link.split('#')[1]!

describe('an empty installation', () => {
  let server: TestServer
  let nobody: Client
  beforeAll(async () => {
    server = await serveEmpty()
    nobody = await server.as(null)
  })
  afterAll(() => server.close())
  const setUp = (more: object = {}) =>
    nobody('post', '/api/installation', {
      code: server.code,
      department: 'Lowland Hydrography',
      name: 'Maren Osterlund',
      signIn: 'maren',
      email: null,
      passphrase: GOOD,
      ...more,
    })

  test('is set up once, with the code of its console and a passphrase that is not tried first', async () => {
    expect((await nobody('get', '/api/installation').expect(200)).body).toMatchObject({
      department: '',
      needsSetUp: true,
      demo: false,
      passphrases: true,
      provider: null,
    })
    expect(field(await setUp({ code: 'AAAA-BBBB-CCCC' }).expect(422))).toBe('code')
    expect(field(await setUp({ passphrase: 'too short' }).expect(422))).toBe('passphrase')
    for (const passphrase of ['passwordpassword', 'qwerty123456', 'maren osterlund'])
      expect([passphrase, detail(await setUp({ passphrase }))]).toEqual([passphrase, expect.stringMatching(/tried first/)])
    const me = (await setUp({ code: server.code.toLowerCase().replaceAll('-', ' ') }).expect(200)).body as { admin: boolean }
    expect(me.admin).toBe(true)
    expect((await nobody('get', '/api/installation')).body).toMatchObject({
      department: 'Lowland Hydrography',
      needsSetUp: false,
      demo: false,
    })
    expect(detail(await setUp({ signIn: 'second' }).expect(409))).toMatch(/set up already/)
    await server.as('maren', GOOD)
  })

  test('who administers makes a course and gives it a lead; without marks it can be removed, and its code is free again', async () => {
    const admin = await server.as('maren', GOOD)
    const [made] = (await admin('post', '/api/people', { people: [{ name: 'Ibo Varga', signIn: 'ibo', email: null }] }).expect(200))
      .body as WayIn[]
    const course = {
      code: 'HYD 1',
      title: 'Sluices',
      term: 'spring 2027',
      firstDay: '2027-01-11',
      lastDay: '2027-04-30',
      from: null,
      leadId: made!.personId,
      take: { plan: false, placements: false, standards: false, boundaries: false, people: false },
    }
    const { id } = (await admin('post', '/api/courses', course).expect(200)).body as { id: string }
    await admin('get', `/api/courses/${id}/table`).expect(404)
    const list = async () => (await admin('get', '/api/installation/courses').expect(200)).body as InstalledCourse[]
    expect(await list()).toEqual([expect.objectContaining({ code: 'HYD 1', leads: ['Ibo Varga'], bare: true, awayAt: null })])
    await admin('delete', `/api/installation/courses/${id}`).expect(204)
    expect(await list()).toEqual([])
    await admin('post', '/api/courses', course).expect(200)
  })
})

describe('people', () => {
  let server: TestServer
  let admin: Client
  let nobody: Client
  beforeAll(async () => {
    server = await serveDemo()
    admin = await server.as('orsolya.tamm')
    nobody = await server.as(null)
  }, 60_000)
  afterAll(() => server.close())
  const list = async () => (await admin('get', '/api/people').expect(200)).body as ListedPerson[]
  const one = async (signIn: string) => (await list()).find((p) => p.signIn === signIn)!
  const add = async (...people: { name: string; signIn: string; email: string | null }[]) =>
    (await admin('post', '/api/people', { people }).expect(200)).body as WayIn[]
  const look = (link: string) => nobody('post', '/api/way-in/look', { token: tokenOf(link) })
  const comeIn = (link: string, passphrase = GOOD) => nobody('post', '/api/way-in', { token: tokenOf(link), passphrase })

  test('a list is tried line by line, and comes in as a whole or not at all; it can be taken back until somebody came in', async () => {
    const text = ['Ada Quist, ada.quist, ada@vale.example', 'Bo Reyes', 'Ines Valdry, ines.valdry', 'Ada Q, ada.quist'].join('\n')
    const tried = (await admin('post', '/api/people/try', { text }).expect(200)).body as TriedPeople
    expect(tried.rows.map((r) => [r.line, r.does])).toEqual([
      [1, 'added'],
      [2, 'refused'],
      [3, 'known'],
      [4, 'refused'],
    ])
    expect(await one('ada.quist')).toBeUndefined()
    const two = [...tried.people, { name: 'Ines', signIn: 'INES.VALDRY', email: null, externalId: null }]
    expect(detail(await admin('post', '/api/people', { people: two }).expect(422))).toMatch(
      /sign-in of Ines Valdry already: nobody was added/,
    )
    expect(await one('ada.quist')).toBeUndefined()
    const [made] = await add(...tried.people)
    expect(await one('ada.quist')).toMatchObject({ state: 'invited', email: 'ada@vale.example', roles: [], lastSignIn: null })
    await admin('post', '/api/people/take-back', { personIds: [made!.personId] }).expect(204)
    expect(await one('ada.quist')).toBeUndefined()
    expect(detail(await look(made!.link).expect(410))).toMatch(/not known/)
    const [again] = await add(...tried.people)
    await comeIn(again!.link).expect(200)
    expect(detail(await admin('post', '/api/people/take-back', { personIds: [again!.personId] }).expect(409))).toMatch(/has come in/)
  })

  test('a link is good once, until a newer one, until its days are over, and never for who is not active', async () => {
    const [first] = await add({ name: 'Cleo Marsh', signIn: 'cleo', email: null })
    expect((await look(first!.link).expect(200)).body).toMatchObject({ name: 'Cleo Marsh', signIn: 'cleo', kind: 'invitation' })
    const renew = async () => (await admin('post', `/api/people/${first!.personId}/way-in`).expect(200)).body as WayIn
    const second = await renew()
    expect(detail(await comeIn(first!.link).expect(410))).toMatch(/newer link/)
    expect(detail(await comeIn(second.link, 'cleo marsh cleo').expect(422))).toMatch(/tried first/)
    await comeIn(second.link).expect(200)
    expect(detail(await comeIn(second.link).expect(410))).toMatch(/used already/)
    const third = await renew()
    expect((await look(third.link).expect(200)).body).toMatchObject({ kind: 'reset' })
    server.db.prepare("UPDATE way_in SET ends_at = '2026-01-01T00:00:00.000Z' WHERE person_id = ? AND ended IS NULL").run(first!.personId)
    expect(detail(await comeIn(third.link).expect(410))).toMatch(/7 days, which are over/)
    const fourth = await renew()
    const { version } = await one('cleo')
    await admin('patch', `/api/people/${first!.personId}`, { version, active: false }).expect(200)
    await comeIn(fourth.link).expect(410)
    await nobody('post', '/api/session', { signIn: 'cleo', passphrase: GOOD }).expect(401)
    expect(detail(await admin('post', `/api/people/${first!.personId}/way-in`).expect(409))).toMatch(/bring them back first/)
    const { version: now } = await one('cleo')
    await admin('patch', `/api/people/${first!.personId}`, { version: now, active: true }).expect(200)
    await server.as('cleo', GOOD)
  })

  test('links stand nowhere but in their letter: not in the database, not in what others are sent', async () => {
    const [made] = await add({ name: 'Dov Halm', signIn: 'dov', email: 'dov@vale.example' })
    const token = tokenOf(made!.link)
    const tables = server.db.prepare("SELECT name FROM sqlite_master WHERE type = 'table'").pluck().all() as string[]
    const held = tables.filter((t) => JSON.stringify(server.db.prepare(`SELECT * FROM "${t}"`).all()).includes(token))
    expect(held).toEqual([])
    const folder = join(dirname(server.file), 'post', 'installation')
    const letters = readdirSync(folder).map((f) => readFileSync(join(folder, f), 'utf8').replace(/=\r\n/g, ''))
    expect(letters.filter((l) => l.includes(token) && l.includes('dov@vale.example'))).toHaveLength(1)
  })

  test('one who is deactivated is out at once; the last who administers stays; a stale change is told', async () => {
    const student = await server.as('student')
    await student('get', '/api/account').expect(200)
    const { id, version } = await one('student')
    await admin('patch', `/api/people/${id}`, { version, active: false }).expect(200)
    await student('get', '/api/account').expect(401)
    expect(detail(await admin('patch', `/api/people/${id}`, { version, active: true }).expect(409))).toMatch(/changed meanwhile/)
    const self = await one('orsolya.tamm')
    expect(detail(await admin('patch', `/api/people/${self.id}`, { version: self.version, admin: false }).expect(409))).toMatch(
      /Somebody has to administer/,
    )
    expect(field(await admin('patch', `/api/people/${self.id}`, { version: self.version, signIn: 'RUNE.daal' }).expect(422))).toBe('signIn')
  })

  test('one’s own account: a wrong old passphrase is refused, a new one ends all other sessions, and each can be ended by itself', async () => {
    const [made] = await add({ name: 'Eno Lark', signIn: 'eno', email: null })
    await comeIn(made!.link).expect(200)
    const [here, there, third] = [await server.as('eno', GOOD), await server.as('eno', GOOD), await server.as('eno', GOOD)]
    const account = async () => (await here('get', '/api/account').expect(200)).body as Account
    expect((await account()).sessions.filter((s) => s.own)).toHaveLength(1)
    const other = (await account()).sessions.find((s) => !s.own)!
    await here('delete', `/api/account/sessions/${other.id}`).expect(204)
    await here('delete', `/api/account/sessions/${other.id}`).expect(404)
    const change = (old: string, passphrase: string) => here('post', '/api/account/passphrase', { old, passphrase })
    expect(field(await change('wrong one entirely', 'eleven herons at noon').expect(422))).toBe('old')
    await change(GOOD, 'eleven herons at noon').expect(204)
    expect([(await there('get', '/api/account')).status, (await third('get', '/api/account')).status]).toEqual([401, 401])
    expect((await account()).sessions).toHaveLength(1)
    const { version } = await account()
    expect(((await here('patch', '/api/account', { version, name: 'Eno Lark-Ode' }).expect(200)).body as Account).name).toBe('Eno Lark-Ode')
    await here('patch', '/api/account', { version, name: 'Stale' }).expect(409)
  })

  test('parts in a course: found by name, from lines, changed and taken away; the last lead stays, and so does who has scripts to read', async () => {
    const lead = await server.as('ines.valdry')
    const api = (path: string) => `/api/courses/${COURSE}/people${path}`
    const [made] = await add({ name: 'Fia Brandvold', signIn: 'fia', email: 'fia@vale.example' })
    expect((await lead('get', api('/find/brandv')).expect(200)).body).toEqual([
      { id: made!.personId, name: 'Fia Brandvold', signIn: 'fia' },
    ])
    // Whoever is a student and nothing else is nobody that a lead comes upon.
    expect((await lead('get', '/api/courses/cfs118-2026/people/find/student').expect(200)).body).toEqual([])
    expect((await lead('get', api('/find/%25')).expect(200)).body).toEqual([])
    const tried = (await lead('post', api('/try'), { text: 'Fia Brandvold <fia@vale.example>\nRune Daal\nNobody Known' }).expect(200)).body
    expect((tried as { person: unknown; why: string | null }[]).map((t) => [t.person !== null, t.why])).toEqual([
      [true, null],
      [false, 'Is marker here already.'],
      [false, expect.stringMatching(/^Nobody here/)],
    ])
    const people = (await lead('put', api(`/${made!.personId}`), { role: 'marker' }).expect(200)).body as CoursePerson[]
    expect(people.find((p) => p.id === made!.personId)).toMatchObject({ role: 'marker', toRead: 0, state: 'invited' })
    await lead('delete', api(`/${made!.personId}`)).expect(200)
    expect(detail(await lead('delete', api('/lead')).expect(409))).toMatch(/last lead cannot leave/)
    expect(detail(await lead('put', api('/lead'), { role: 'marker' }).expect(409))).toMatch(/needs a lead/)
    const busy = ((await lead('get', '/api/courses/cfs118-2026/people').expect(200)).body as CoursePerson[]).find((p) => p.toRead > 0)!
    expect(detail(await lead('delete', `/api/courses/cfs118-2026/people/${busy.id}`).expect(409))).toMatch(
      /scripts are shared out to .* and not handed in/,
    )
  })

  test('students come in by the roll, once, and see their own work alone', async () => {
    const lead = await server.as('ines.valdry')
    const path = `/api/courses/cfs118-2026/student-access`
    const access = async () => (await lead('get', path).expect(200)).body as { studentId: string; state: string; signIn: string | null }[]
    const [one, two] = (await access()).filter((s) => s.state === 'none' && s.signIn !== null)
    // What the roll has of them to sign in by comes before an id of another system.
    server.db.prepare("UPDATE student SET sign_in = 'own.choice@vale.example' WHERE id = ?").run(one!.studentId)
    expect((await access()).find((s) => s.studentId === one!.studentId)!.signIn).toBe('own.choice@vale.example')
    const send = () => lead('post', path, { studentIds: [one!.studentId, two!.studentId] }).expect(200)
    expect((await send()).body).toEqual({ invited: 2, known: 0, sent: 2 })
    expect((await send()).body).toEqual({ invited: 0, known: 0, sent: 0 })
    expect((await access()).filter((s) => s.state === 'invited')).toHaveLength(2)
    expect(server.db.prepare("SELECT email, external_id FROM person WHERE sign_in = 'own.choice@vale.example'").get()).toEqual({
      email: 'own.choice@vale.example',
      external_id: server.db.prepare('SELECT external_id FROM student WHERE id = ?').pluck().get(one!.studentId),
    })
  })

  test('a course put away can be read and not written, until it is brought back', async () => {
    const lead = await server.as('ines.valdry')
    const away = (on: boolean) => admin('put', '/api/installation/courses/cfs118-2026/away', { away: on }).expect(204)
    const edit = (more: object = {}) =>
      lead('patch', '/api/courses/cfs118-2026', {
        code: 'CFS 118',
        title: 'Reading the Ground, corrected',
        term: 'autumn 2026',
        firstDay: '2026-09-07',
        lastDay: '2026-12-18',
        ...more,
      })
    await away(true)
    await lead('get', '/api/courses/cfs118-2026/plan').expect(200)
    expect(detail(await edit().expect(409))).toMatch(/put away/)
    const awayAt = async () =>
      ((await lead('get', '/api/courses').expect(200)).body as { id: string; awayAt: string | null }[]).find((c) => c.id === 'cfs118-2026')!
        .awayAt
    expect(await awayAt()).not.toBeNull()
    await away(false)
    expect(await awayAt()).toBeNull()
    expect(field(await edit({ lastDay: '2026-09-01' }).expect(422))).toBe('lastDay')
    expect(detail(await edit({ code: 'CFS 214' }).expect(422))).toMatch(/is there already: give another code or term/)
    expect((await edit().expect(200)).body).toMatchObject({ title: 'Reading the Ground, corrected' })
    expect(detail(await admin('delete', '/api/installation/courses/cfs118-2026').expect(409))).toMatch(/can be put away, and not removed/)
  })

  test('what happened stands on a list that is never rewritten, and goes out as CSV; no mark is in it', async () => {
    const rows = (await admin('get', '/api/audit').expect(200)).body as AuditRow[]
    const kinds = new Set(rows.map((r) => r.kind))
    for (const kind of [
      'signed in',
      'not let in',
      'link made',
      'link used',
      'passphrase changed',
      'session ended',
      'person added',
      'role changed',
    ])
      expect(kinds).toContain(kind)
    const csv = (await admin('get', '/api/audit.csv').expect(200)).text
    expect(csv.split('\r\n')[0]).toBe('\uFEFFat,kind,by,about,course,words')
    // All of it, whole, though it is written in parts.
    const many = 2500
    const note = server.db.prepare("INSERT INTO audit (at, kind, words) VALUES ('2026-01-01T00:00:00.000Z', 'signed in', ?)")
    for (let i = 0; i < many; i++) note.run(`filler ${i}`)
    const long = (await admin('get', '/api/audit.csv').expect(200)).text
    expect(long.match(/filler \d+\r\n/g)).toHaveLength(many)
    expect(new Set(long.match(/filler \d+/g)).size).toBe(many)
    expect(((await admin('get', '/api/audit')).body as AuditRow[])[0]).toMatchObject({
      kind: 'taken out',
      by: 'Orsolya Tamm',
      words: 'audit.csv',
    })
    expect(() => server.db.prepare('DELETE FROM audit').run()).toThrow('never deleted')
    expect(() => server.db.prepare("UPDATE audit SET words = ''").run()).toThrow('never rewritten')
  })
})
