import { createHash } from 'node:crypto'
import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { parse } from 'csv-parse/sync'
import { unzipSync, zipSync, strFromU8, strToU8 } from 'fflate'
import { gradeCourse } from '#core/grades'
import { toCourse, workingsOf } from '#core/trial'
import type { Problem, TriedPackage } from '#contract'
import { planLoader } from '../../../kernel/course/load-plan'
import { tableLoader } from '../../../kernel/course/load-table'
import type { Db } from '../../../kernel/db/open'
import { wholeResult } from '../../../../core/testing/whole-result'
import { COURSE, serveDemo, serveEmpty, type Client, type TestServer } from '../../../testing/serve'
import { takenOut } from '../../../testing/taken-out'
import { shapes } from './columns'
import { makeNameless } from '../nameless'
import { takeOut as taken } from './take-out'
import { JSON_COLUMNS } from './json-columns'
import { PACKAGED, STAYS } from './tables'

const PASSPHRASE = 'three herons over the weir'

let demo: TestServer
let lead: Client
let empty: TestServer
let admin: Client
let packed: Buffer
beforeAll(async () => {
  demo = await serveDemo()
  lead = await demo.as('ines.valdry')
  fillAll()
  packed = await takeOutWhole()
}, 60_000)
afterAll(() => demo.close())
beforeEach(async () => {
  // One in which nothing came in serves the next test too.
  if (empty?.db.prepare('SELECT count(*) FROM person').pluck().get() === 1) return
  await empty?.close()
  empty = await serveEmpty()
  const person = { name: 'Orla Quay', signIn: 'orla', email: null, passphrase: PASSPHRASE }
  await (await empty.as(null))('post', '/api/installation', { code: empty.code, department: 'Elsewhere', ...person }).expect(200)
  admin = await empty.as('orla', PASSPHRASE)
})
afterAll(() => empty.close())

/** A row in each of the tables that the demo leaves empty. */
function fillAll(): void {
  const one = <T>(sql: string) => demo.db.prepare<[], T>(sql).get()!
  const script = one<{ id: string; student: string; assessment: string }>(
    `SELECT s.id, s.student_id AS student, s.assessment_id AS assessment FROM script s JOIN assessment a ON a.id = s.assessment_id
     WHERE a.course_id = '${COURSE}' AND EXISTS (SELECT 1 FROM reading r WHERE r.script_id = s.id) LIMIT 1`,
  )
  const reading = one<{ id: string }>(`SELECT id FROM reading WHERE script_id = '${script.id}' LIMIT 1`)
  const decision = one<{ id: string }>(`SELECT id FROM decision WHERE course_id = '${COURSE}' LIMIT 1`)
  const at = '2026-11-20T10:00:00.000Z'
  const put = (sql: string, ...values: unknown[]) => demo.db.prepare(sql).run(...values)
  const words = '= "a trap", \\N\r\nand \u00a0\u{1F33F} more'
  put(
    "INSERT INTO reading_state (reading_id, version, mark, picks, state, at, comment) VALUES (?, 1, 0.1, '{}', 'draft', ?, ?)",
    reading.id,
    at,
    words,
  )
  put("INSERT INTO next_reading VALUES (?, 1, NULL, '{}', NULL, '\\N', '{}', '', ?)", reading.id, at)
  put('INSERT INTO seen_others VALUES (?, ?)', reading.id, at)
  put("INSERT INTO by_standing VALUES (?, 'outcome-draw', '[0,40,70,100]', 'lead', ?, 'scale-viva', '[0,1,2,4]')", `${COURSE}-part-1`, at)
  put(
    "INSERT INTO delivery VALUES ('d1', ?, 'a.pdf', '1', 'Viva', ?, 'pdf', ?, 'h', 'waiting', 'nobody', NULL, NULL, NULL)",
    COURSE,
    at,
    Buffer.concat([Buffer.from([0, 255, 13, 10, 34]), Buffer.alloc(300_000, 7)]),
  )
  put("INSERT INTO marking_gate VALUES (?, 'marker-1', 'held', 'lead', ?)", script.assessment, at)
  put(
    "INSERT INTO shared_out (assessment_id, by_id, at, before) VALUES (?, 'lead', ?, ?)",
    script.assessment,
    at,
    JSON.stringify([[script.student, 'marker-1']]),
  )
  put("INSERT INTO blind_script VALUES ('b1', ?, ?, '4711')", script.assessment, script.student)
  put("INSERT INTO carried_reading VALUES (?, ?, 1, 'rubric-map', '{}', 0.30000000000000004, 'sound')", decision.id, reading.id)
  put("INSERT INTO marking_deadline VALUES (?, 'marker-1', '2026-12-03')", script.assessment)
  put("INSERT INTO trial (course_id, person_id, changes, kept_at, version) VALUES (?, 'lead', '[]', ?, 3)", COURSE, at)
  put("INSERT INTO idea VALUES ('i1', ?, 'rescale', 'Gentler', '[]', 'lead', ?)", COURSE, at)
  put("INSERT INTO finding_accepted VALUES (?, 'key', ?, 'lead', ?)", COURSE, "'=so", at)
  put("INSERT INTO look VALUES ('l1', ?, 'lead', 'marker-1', ?, NULL)", COURSE, at)
  put("INSERT INTO letter VALUES ('p1', ?, 'lead', 'marker-1', 'To read', '', ?)", COURSE, at)
  put("INSERT INTO stand_in_set (course_id, name, fails, by_id, at) VALUES (?, 'post', 1, 'admin', ?)", COURSE, at)
  put(`INSERT INTO roll_match VALUES (?, '["a"]', '{"name":0}', ?)`, COURSE, at)
  put(`INSERT INTO marks_match VALUES (?, '["a"]', '{"who":{"column":0,"by":"name"},"marks":[]}', ?)`, COURSE, at)
  put(`INSERT INTO roll_file VALUES ('r1', ?, 'roll.csv', 's', '{"sections":[],"students":[]}', 'lead', ?, NULL, NULL)`, COURSE, at)
  put("INSERT INTO roster_class SELECT id, course_id, 'class-1', 'r1' FROM section WHERE course_id = ? LIMIT 1", COURSE)
  put("INSERT INTO roster_teacher VALUES (?, 'marker-1', 'teacher-1')", COURSE)
  put("INSERT INTO roster_name VALUES (?, 'Maria Luz', '', 'Roe')", script.student)
}

const takeOutWhole = async () => (await takenOut(await demo.as('orsolya.tamm'), `/api/installation/courses/${COURSE}/package.zip`)).body
const takeOut = async (by: Client, courseId = COURSE) => (await takenOut(by, `/api/courses/${courseId}/package.zip`)).body
const post = async (bytes: Buffer) => {
  const answer = await admin('post', '/api/installation/packages').set('content-type', 'application/zip').send(bytes)
  return { status: answer.status, body: answer.body as TriedPackage & { packageId: string } & Problem }
}
const bring = async (bytes: Buffer) => {
  const { body } = await post(bytes)
  return admin('post', `/api/installation/packages/${body.packageId}`)
}
/** The package with one of its files changed, and its hash with it. */
const changed = (path: string, change: (text: string) => string, honest = true): Buffer => forge(packed, path, change, honest)
function forge(bytes: Uint8Array, path: string, change: (text: string) => string, honest = true): Buffer {
  const files = unzipSync(bytes)
  files[path] = strToU8(change(strFromU8(files[path]!)))
  if (honest && path !== 'datapackage.json') {
    const about = JSON.parse(strFromU8(files['datapackage.json']!)) as { resources: { path: string; hash: string }[] }
    about.resources.find((r) => r.path === path)!.hash = `sha256:${createHash('sha256').update(files[path]).digest('hex')}`
    files['datapackage.json'] = strToU8(JSON.stringify(about))
  }
  return Buffer.from(zipSync(files))
}

/** Every row of a course's tables, as the database has them. */
function everything(db: Db, courseId = COURSE) {
  const all = shapes(db)
  return Object.fromEntries(
    all
      .filter((t) => t.name !== 'person')
      .map((t) => [
        t.name,
        db
          .prepare<[{ course: string }], unknown[]>(
            `SELECT ${t.columns.map((c) => `t."${c}"`).join(', ')} FROM "${t.name}" t WHERE ${t.rows} ORDER BY ${t.key.map((k) => `t."${k}"`).join(', ') || 't.rowid'}`,
          )
          .raw()
          .all({ course: courseId }),
      ]),
  )
}
const figures = (db: Db) => wholeResult(gradeCourse(toCourse(workingsOf(tableLoader(db, planLoader(db)).load(COURSE)))))

test('every table of the database goes along or stays, on purpose, and every JSON in it is looked at', () => {
  const tables = demo.db
    .prepare("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'")
    .pluck()
    .all() as string[]
  expect([...PACKAGED.map((t) => t.name), ...STAYS].sort()).toEqual(tables.sort())
  for (const { name } of PACKAGED) {
    const sql = demo.db.prepare('SELECT sql FROM sqlite_master WHERE name = ?').pluck().get(name) as string
    const json = [...sql.matchAll(/json_valid\((\w+)\)/g)].map((m) => m[1])
    expect(Object.keys(JSON_COLUMNS[name] ?? {})).toEqual(expect.arrayContaining(json))
  }
})

test('the demo’s course, out and in on an empty installation: every table, every figure, who sees it', async () => {
  const { status, body } = await post(packed)
  expect(status).toBe(200)
  expect(body).toMatchObject({
    course: expect.stringMatching(/^CFS 214 Field Mapping/) as string,
    counts: { students: 120, sections: 8 },
    goesOn: false,
  })
  expect(body.people[0]).toEqual({ name: 'Ines Valdry', signIn: 'ines.valdry', here: null, role: 'lead' })
  expect(empty.db.prepare('SELECT count(*) FROM course').pluck().get()).toBe(0)
  const { body: done } = await admin('post', `/api/installation/packages/${body.packageId}`).expect(200)
  expect(done).toEqual({ courseId: COURSE })
  const [there, here] = [everything(demo.db), everything(empty.db)]
  // Those of the course that is confirmed already.
  expect(Object.keys(there).filter((table) => there[table]!.length === 0)).toEqual([
    'issue',
    'signature',
    'objection',
    'result_release',
    'told_result',
    'hand_over',
    'result_withdrawn',
    'line_list',
    'line_list_student',
    'line_list_judge',
    'line_judgement',
  ])
  for (const table of Object.keys(there)) {
    expect({ table, rows: here[table] }).toEqual({ table, rows: there[table] })
  }
  expect(figures(empty.db)).toEqual(figures(demo.db))
  // Nobody came in by that: those who are new are invited by whoever administers.
  expect(empty.db.prepare("SELECT count(*) FROM person WHERE passphrase_hash <> ''").pluck().get()).toBe(1)
  expect((await admin('get', `/api/courses/${COURSE}/table`)).status).toBe(404)
  // Out again, it is the same package but for its date.
  empty.db
    .prepare('INSERT OR REPLACE INTO course_role VALUES (?, (SELECT id FROM person WHERE sign_in = ?), ?)')
    .run(COURSE, 'orla', 'lead')
  // Its letters' files stayed there; they are written anew from what stands in the tables.
  const letter = await admin('get', `/api/courses/${COURSE}/letters/p1/letter.eml`).buffer(true).expect(200)
  expect(String(letter.text ?? letter.body)).toMatch(/^From: Ines Valdry/m)
  expect((await post(packed)).body.detail).toBe('That course is here already, as CFS 214, autumn 2026.')
}, 60_000)

test('people are who has their sign-in here, also inside what was decided; whose id is taken gets another', async () => {
  const put = empty.db.prepare("INSERT INTO person (id, name, sign_in, passphrase_hash) VALUES (?, ?, ?, '')")
  put.run('known-here', 'I. Valdry', 'INES.valdry')
  put.run('marker-1', 'Somebody Else', 'somebody.else')
  expect((await bring(packed)).status).toBe(200)
  const role = empty.db
    .prepare<[string], { person_id: string }>("SELECT person_id FROM course_role WHERE course_id = ? AND role = 'lead'")
    .get(COURSE)
  expect(role?.person_id).toBe('known-here')
  const signIn = demo.db.prepare("SELECT sign_in FROM person WHERE id = 'marker-1'").pluck().get() as string
  const first = empty.db.prepare('SELECT id FROM person WHERE sign_in = ?').pluck().get(signIn) as string
  expect(first).not.toBe('marker-1')
  const [before] = JSON.parse(empty.db.prepare('SELECT before FROM shared_out').pluck().get() as string) as [string, string][]
  expect(before![1]).toBe(first)
  expect(empty.db.prepare("SELECT count(*) FROM reading WHERE marker_id = 'marker-1'").pluck().get()).toBe(0)
  const markers = (db: Db, id: string) => db.prepare('SELECT count(*) FROM reading WHERE marker_id = ?').pluck().get(id)
  expect(markers(empty.db, first)).toBe(markers(demo.db, 'marker-1'))
}, 60_000)

test.each<[string, () => Buffer, RegExp]>([
  ['no zip', () => Buffer.from('PK, and no more'), /breaks off before its end/],
  ['another zip', () => Buffer.from(zipSync({ 'a.txt': strToU8('a') })), /an archive of other files. What is read here: a data package/],
  ['a changed file', () => changed('data/script.csv', (t) => t.replace(/,in,/, ',late,'), false), /script\.csv is not as it was taken out/],
  [
    'a cell that cannot be',
    () => changed('data/script.csv', (t) => t.replace(/,in,0,/, ',in,many,')),
    /data\/script\.csv, row \d+: “many” cannot be days_late/,
  ],
  ['a check that fails', () => changed('data/script.csv', (t) => t.replace(/,in,0,/, ',lost,0,')), /row \d+: CHECK constraint failed/],
  [
    'a row too few',
    () => changed('data/enrolment.csv', (t) => t.trimEnd().split('\r\n').slice(0, -1).join('\r\n')),
    /has 119 rows, and should have 120/,
  ],
  [
    'a reference to nothing',
    () => changed('data/enrolment.csv', (t) => t.replace(/^[^,\r\n]+-student-\d+,/m, 'nobody,')),
    /the student that it refers to is not in the package/,
  ],
  [
    'JSON of another kind',
    () => changed('data/course.csv', (t) => t.replace('""from""', '""until""')),
    /course\.csv, row 2: boundaries is not what it should be/,
  ],
  [
    'a stray quotation mark',
    () => changed('data/section.csv', (t) => t.replace(/(\r\n[^,"]+),/, '$1"x,')),
    /data\/section\.csv, row 2: a quotation mark is missing, or stands where none can/,
  ],
  [
    'a course id that leads elsewhere',
    () => changed('datapackage.json', (t) => t.replaceAll(COURSE, '../../evil')),
    /is not that of a course/,
  ],
  [
    'an id that leads elsewhere',
    () => changed('data/section.csv', (t) => t.replace(/(\r\n)[^,]+/, '$1../../evil')),
    /data\/section\.csv, row 2: “\.\.\/\.\.\/evil” cannot be id/,
  ],
  [
    'what unpacks to far more than it is',
    () => changed('data/section.csv', (t) => t + ' '.repeat(50_000_000)),
    /unpacks to more than \d+ MB/,
  ],
  [
    'more rows than it says',
    () => changed('data/enrolment.csv', (t) => t + t.slice(t.indexOf('\r\n') + 2).repeat(3)),
    /has more rows than the 120 that it should have/,
  ],
  [
    'names taken for nameless',
    () =>
      changed('data/course.csv', (t) => t.replace(/^(id,.*\r\n)/, '$1').replace(/\\N,\\N,\\N(?=,)/, '\\N,\\N,2027-01-01T00:00:00.000Z')),
    /says that the course is nameless, and student \S+ has a name in it/,
  ],
  ['a newer schema', () => changed('datapackage.json', (t) => t.replace(/"schema": \d+/, '"schema": 9999')), /newer Level Table/],
])(
  '%s is refused with where and why, and nothing is brought in',
  async (_, bytes, says) => {
    const { status, body } = await post(bytes())
    expect({ status, detail: body.detail }).toEqual({ status: 422, detail: expect.stringMatching(says) as string })
    expect(empty.db.prepare('SELECT count(*) FROM course').pluck().get()).toBe(0)
  },
  60_000,
)

test('what was refused leaves nothing behind', async () => {
  await post(changed('data/section.csv', (t) => t.replace(/(\r\n[^,"]+),/, '$1"x,')))
  expect(readdirSync(join(dirname(empty.file), 'packages'))).toEqual([])
})

test('a lead takes out what the page shows them, and who administers all of it, which is noted', async () => {
  const { db } = demo
  const at = '2026-11-20T10:00:00.000Z'
  const [student] = db.prepare<[string], string>('SELECT id FROM student WHERE course_id = ?').pluck().all(COURSE)
  db.prepare("INSERT INTO line_list VALUES ('ll', ?, 'Pass', 'lead', ?, NULL)").run(COURSE, at)
  db.prepare("INSERT INTO line_list_student VALUES ('ll', ?, 0)").run(student)
  db.prepare("INSERT INTO line_list_judge VALUES ('ll', 'marker-1')").run()
  db.prepare("INSERT INTO line_judgement VALUES ('ll', ?, 'marker-1', 0, ?)").run(student, at)
  db.prepare("INSERT INTO trial (course_id, person_id, changes, kept_at, version) VALUES (?, 'marker-2', '[]', ?, 1)").run(COURSE, at)
  try {
    const rows = (bytes: Uint8Array, table: string) => {
      const text = strFromU8(unzipSync(bytes)[`data/${table}.csv`]!)
      return text.trimEnd().split('\r\n').length - 1
    }
    const own = await takeOut(lead)
    expect(['line_judgement', 'next_reading', 'trial'].map((t) => rows(own, t))).toEqual([0, 0, 1])
    const all = await takeOutWhole()
    expect(['line_judgement', 'next_reading', 'trial'].map((t) => rows(all, t))).toEqual([1, 1, 2])
    expect(db.prepare('SELECT words FROM audit WHERE course_id = ? ORDER BY id').pluck().all(COURSE)).toContain(
      'exported whole, to be moved to another installation',
    )
    await lead('get', `/api/installation/courses/${COURSE}/package.zip`).expect(403)
    // Both come in, for what a lead is not shown is no fault of the package.
    expect((await post(own)).status).toBe(200)
  } finally {
    db.exec(
      "DELETE FROM line_judgement; DELETE FROM line_list_judge; DELETE FROM line_list_student; DELETE FROM line_list; DELETE FROM trial WHERE person_id = 'marker-2'",
    )
  }
}, 60_000)

test('a nameless course’s issue has the hash of what is left of it', async () => {
  const file = empty.file
  expect((await bring(await takeOut(await leadOf('cfs214-2025'), 'cfs214-2025'))).status).toBe(200)
  makeNameless({ file, courseId: 'cfs214-2025', at: '2027-01-10T10:00:00.000Z', reasons: [] })
  const out = join(dirname(file), 'nameless.zip')
  const other = await serveEmpty()
  try {
    await (
      await other.as(null)
    )('post', '/api/installation', {
      code: other.code,
      department: 'Third',
      name: 'Orla Quay',
      signIn: 'orla',
      email: null,
      passphrase: PASSPHRASE,
    }).expect(200)
    const third = await other.as('orla', PASSPHRASE)
    const send = (bytes: Uint8Array) =>
      third('post', '/api/installation/packages')
        .set('content-type', 'application/zip')
        .send(Buffer.from(bytes) as never)
    taken({ file, courseId: 'cfs214-2025', into: out, personId: null })
    const bytes = readFileSync(out)
    expect((await send(bytes)).status).toBe(200)
    const forged = forge(bytes, 'data/issue.csv', (t) => t.replace(/""rounded"":\d/, '""rounded"":9'))
    expect((await send(forged)).body).toMatchObject({ detail: 'Issue 1 is not as it was confirmed: its hash differs.' })
  } finally {
    await other.close()
  }
}, 60_000)

test('tables are read as they were written by a reader that is not ours, line breaks and all', () => {
  const text = strFromU8(unzipSync(packed)['data/reading_state.csv']!)
  const about = JSON.parse(strFromU8(unzipSync(packed)['datapackage.json']!)) as { levelTable: { rows: Record<string, number> } }
  // A plain scan by RFC 4180: a line ends at any line break outside of quotation marks.
  let [quoted, lines] = [false, 0]
  for (let i = 0; i < text.length; i++) {
    if (text[i] === '"') quoted = !quoted
    else if (text[i] === '\n' && !quoted) lines++
    else if (text[i] === '\r' && !quoted && text[i + 1] !== '\n') lines++
  }
  expect(lines - 1).toBe(about.levelTable.rows.reading_state)
})

test('what was confirmed is confirmed with its hash', async () => {
  const last = await takeOut(await leadOf('cfs214-2025'), 'cfs214-2025')
  const forged = forge(last, 'data/issue.csv', (t) => t.replace(/""rounded"":\d/, '""rounded"":9'))
  expect((await post(forged)).body.detail).toBe('Issue 1 is not as it was confirmed: its hash differs.')
  expect((await bring(last)).status).toBe(200)
  expect(everything(empty.db, 'cfs214-2025')).toEqual(everything(demo.db, 'cfs214-2025'))
}, 60_000)
const leadOf = (courseId: string) => {
  demo.db.prepare("INSERT OR REPLACE INTO course_role VALUES (?, 'lead', 'lead')").run(courseId)
  return Promise.resolve(lead)
}

test('what a crash left half done is seen by nobody, and goes on where it stopped', async () => {
  const { body } = await post(packed)
  // As it is between two of its writes.
  empty.db.exec(`CREATE TRIGGER crash BEFORE INSERT ON reading_state BEGIN SELECT RAISE(ABORT, 'crash'); END`)
  expect((await admin('post', `/api/installation/packages/${body.packageId}`)).status).toBe(500)
  expect(empty.db.prepare('SELECT count(*) FROM script').pluck().get()).toBeGreaterThan(0)
  expect((await admin('get', '/api/installation/courses').expect(200)).body).toEqual([])
  empty.db.exec('DROP TRIGGER crash')
  const again = await post(packed)
  expect(again.body.goesOn).toBe(true)
  await admin('post', `/api/installation/packages/${again.body.packageId}`).expect(200)
  expect(everything(empty.db)).toEqual(everything(demo.db))
}, 60_000)

test('a library entry that is another here is told, and nothing is brought in', async () => {
  const owner = empty.db.prepare('SELECT id FROM person').pluck().get()
  const put = empty.db.prepare('INSERT INTO standard (id, kind, title, owner_id, body) VALUES (?, ?, ?, ?, ?)')
  const known = demo.db.prepare("SELECT body FROM standard WHERE id = 'rubric-map'").pluck().get()
  put.run('rubric-map', 'rubric', 'A map, as called here', owner, known)
  put.run('scale-viva', 'scale', 'Spoken defence', owner, '{"labels":[]}')
  expect((await post(packed)).body.detail).toMatch(/^“Spoken defence, five labels” is in the library here already, and is another/)
  empty.db.prepare("DELETE FROM standard WHERE id = 'scale-viva'").run()
  const { body } = await post(packed)
  expect(body.standards.known).toBe(1)
  await admin('post', `/api/installation/packages/${body.packageId}`).expect(200)
  expect(empty.db.prepare("SELECT title FROM standard WHERE id = 'rubric-map'").pluck().get()).toBe('A map, as called here')
}, 60_000)

test('no cell is longer than common readers take, also where a work that was handed in is: it stands in parts in a table of its own', () => {
  const files = unzipSync(packed)
  const cellsIn = (name: string): string[][] => parse(strFromU8(files[name]!))
  const tables = Object.keys(files).filter((name) => name.endsWith('.csv'))
  expect(
    Math.max(
      ...tables.map((name) =>
        Math.max(
          ...cellsIn(name)
            .flat()
            .map((c) => c.length),
        ),
      ),
    ),
  ).toBe(100_000)
  const [, ...parts] = cellsIn('data/long_cells.csv')
  const delivery = cellsIn('data/delivery.csv').find((row) => row[0] === 'd1')!
  const hash = delivery.find((c) => c.startsWith('\\L'))!.slice(2)
  const whole = parts.filter((p) => p[0] === hash).map((p) => p[2]).join('') // prettier-ignore
  expect(Buffer.from(whole, 'base64').length).toBe(300_005)
  const { resources } = JSON.parse(strFromU8(files['datapackage.json']!)) as { resources: { name: string }[] }
  expect(new Set(resources.map((r) => r.name)).size).toBe(resources.length)
})
