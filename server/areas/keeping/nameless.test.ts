import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { gradeCourse } from '#core/grades'
import { toCourse, workingsOf } from '#core/trial'
import type { Erased, InstalledCourse, IssueContent, Problem, Settings } from '#contract'
import { planLoader } from '../../kernel/course/load-plan'
import { tableLoader } from '../../kernel/course/load-table'
import { shapes } from './package/columns'
import { serveDemo, type Client, type TestServer } from '../../testing/serve'

// The one that is confirmed.
const COURSE = 'cfs214-2025'
const names = `/api/installation/courses/${COURSE}/names`

let server: TestServer
let admin: Client
let lead: Client
beforeAll(async () => {
  server = await serveDemo()
  admin = await server.as('orsolya.tamm')
  lead = await server.as('ines.valdry')
  const { db } = server
  const { id } = db
    .prepare('SELECT s.id FROM script s JOIN assessment a ON a.id = s.assessment_id WHERE a.course_id = ? LIMIT 1')
    .get(COURSE) as { id: string }
  const at = '2026-01-02T10:00:00.000Z'
  db.prepare("UPDATE script SET text = 'By Aldous Wend, on rivers.' WHERE id = ?").run(id)
  db.prepare(
    "INSERT INTO reading (id, script_id, marker_id, mark, state, handed_in_at, comment, notes) VALUES ('r', ?, 'marker-1', 12, 'handed in', ?, 'Aldous, read on.', 'ask Wend')",
  ).run(id, at)
  db.prepare(
    "INSERT INTO reading_state (reading_id, version, mark, picks, state, at, comment) VALUES ('r', 1, 11, '{}', 'draft', ?, 'Aldous!')",
  ).run(at)
  db.prepare(
    "INSERT INTO delivery VALUES ('d', ?, 'Aldous Wend.pdf', '1', 'Viva', ?, 'pdf', x'41', 'h', 'set aside', 'twice', NULL, NULL, NULL)",
  ).run(COURSE, at)
  db.prepare("INSERT INTO roll_file VALUES ('f', ?, 'roll.csv', 's', ?, 'lead', ?, NULL, NULL)").run(
    COURSE,
    '{"sections":[],"students":[["Aldous Wend"]]}',
    at,
  )
  const [student] = db.prepare<[string], string>('SELECT id FROM student WHERE course_id = ?').pluck().all(COURSE)
  db.prepare("INSERT INTO typed_evidence VALUES ('e', ?, 'outcome-draw', ?, 2, '2026-01-02', 'Aldous said why', 'lead', ?, NULL)").run(
    COURSE,
    student,
    at,
  )
  db.prepare("INSERT INTO kept_group VALUES ('g', ?, 'With Aldous Wend', 'lead', ?)").run(COURSE, at)
  db.prepare("INSERT INTO code_name VALUES (?, ?, 'wild aldous, or Aldous')").run(student, COURSE)
  db.prepare("INSERT INTO mark_question VALUES ('q', ?, NULL, NULL, 'Aldous asks why', 12, ?, 'Because, Wend', 'lead', ?)").run(id, at, at)
  const put = (sql: string, ...values: unknown[]) => db.prepare(sql).run(...values)
  put("INSERT INTO note VALUES ('n', ?, 'section', 's', NULL, 'lead', 'Aldous again', ?, 'Wend, yes', 'lead', ?)", COURSE, at, at)
  put("INSERT INTO between_two VALUES ('b', ?, 'marker-1', 12, 'Aldous is right', ?, '[]', 'lead', 1, 'Wend is', ?, NULL)", id, at, at)
  put("INSERT INTO objection VALUES ('o', ?, 1, 'lead', 'lead', 'Aldous Wend was ill', ?, ?)", COURSE, at, at)
  put(
    "INSERT INTO hand_over VALUES ('h', ?, 1, 'lead', ?, ?, 'RO-1', ?, ?)",
    COURSE,
    at,
    JSON.stringify([{ studentId: student, number: 'W-1-Aldous', grade: 'Pass', percent: 51 }]),
    JSON.stringify([{ studentId: student, number: 'W-1-Aldous', why: 'Nobody has W-1-Aldous.' }]),
    at,
  )
  const decision =
    "INSERT INTO decision (id, course_id, seq, kind, summary, changes, reason, made_by, made_at) VALUES (?, ?, ?, 'plan', 'a plan', ?, ?, 'lead', ?)"
  const change = { kind: 'settle', scriptId: 'none', step: null, mark: 1 }
  put(
    decision,
    'de',
    COURSE,
    901,
    JSON.stringify([{ ...change, rule: { kind: 'value', value: 1, reason: 'As Aldous Wend asked on paper' } }]),
    'As Aldous Wend asked on paper',
    at,
  )
  put(decision, 'df', COURSE, 902, '[]', 'Too hard for everybody', at)
  put('UPDATE student SET name = ? WHERE id = ?', 'Aldous Wend', student)
  put("INSERT INTO person (id, name, sign_in, passphrase_hash) VALUES ('own', 'Somebody Signed In', 'somebody', '')")
  put("UPDATE student SET person_id = 'own' WHERE id = ?", student)
  put("INSERT INTO script_state VALUES (?, 77, 'in', 0, NULL, 'own', ?, NULL)", id, at)
  for (const letter of ['l1', 'l2']) {
    put("INSERT INTO letter VALUES (?, ?, 'lead', 'own', 'To Aldous', 'Dear Wend', ?)", letter, COURSE, at)
    const folder = join(dirname(server.file), 'post', COURSE)
    mkdirSync(folder, { recursive: true })
    writeFileSync(join(folder, `${letter}.eml`), 'Dear Wend')
  }
}, 60_000)
afterAll(() => server.close())

const installed = async () =>
  ((await admin('get', '/api/installation/courses').expect(200)).body as InstalledCourse[]).find((c) => c.id === COURSE)!
const after = async (namelessAfter: number) => {
  const { version } = (await admin('get', '/api/installation/settings').expect(200)).body as Settings
  await admin('put', '/api/installation/settings', { version, namelessAfter }).expect(200)
}
// In whatever order they are called.
const figures = () =>
  gradeCourse(toCourse(workingsOf(tableLoader(server.db, planLoader(server.db)).load(COURSE)))).students.sort((a, b) =>
    a.studentId < b.studentId ? -1 : 1,
  )
const filesIn = (folder: string): string[] =>
  readdirSync(folder).flatMap((name) => (statSync(join(folder, name)).isDirectory() ? filesIn(join(folder, name)) : [join(folder, name)]))
/** Every text of the course's rows. */
const texts = () =>
  shapes(server.db)
    .filter((t) => !['person', 'standard', 'suggestion'].includes(t.name))
    .flatMap((t) => server.db.prepare(`SELECT * FROM "${t.name}" t WHERE ${t.rows}`).raw().all({ course: COURSE }) as unknown[][])
    .flat()
    .filter((v) => typeof v === 'string')
    .join('\n')

test('only a course that is put away, and for long enough, and only by who administers', async () => {
  expect(((await admin('delete', names, { reasons: [] }).expect(409)).body as Problem).detail).toBe(
    'Put CFS 214 away first: names are erased of a course that is over.',
  )
  await admin('put', `/api/installation/courses/${COURSE}/away`, { away: true }).expect(204)
  expect(((await admin('delete', names, { reasons: [] }).expect(409)).body as Problem).detail).toMatch(
    /^CFS 214 can be made nameless from \d+ \w+ \d{4} on: 365 days after/,
  )
  await lead('delete', names, { reasons: [] }).expect(403)
  await after(0)
  expect((await installed()).namelessAt).toBeNull()
})

test('names, works and remarks are counted, then erased everywhere; figures, decisions and the hash stay', async () => {
  const students = server.db
    .prepare<[string], { name: string; candidate: string }>('SELECT name, candidate FROM student WHERE course_id = ?')
    .all(COURSE)
  const before = figures()
  const issue = () =>
    server.db.prepare('SELECT content, hash FROM issue WHERE course_id = ?').get(COURSE) as { content: string; hash: string }
  const was = issue()
  // Beside those planted above, what the demo noted in the field.
  const noted = server.db.prepare<[string], number>('SELECT count(*) FROM typed_evidence WHERE course_id = ?').pluck().get(COURSE)! - 1
  const reason = 'As Aldous Wend asked on paper'
  const other = 'Too hard for everybody'
  const expected: Erased = {
    students: students.length,
    works: 1,
    deliveries: 1,
    remarks: 9 + noted,
    rolls: 1,
    letters: 2,
    sent: 1,
    reasons: [reason],
  }
  expect((await admin('get', names).expect(200)).body).toEqual(expected)
  expect(texts()).toContain('Aldous')
  expect((await admin('delete', names, { reasons: [reason, other] }).expect(200)).body).toEqual(expected)
  expect(server.db.prepare("SELECT reason FROM decision WHERE id = 'de'").pluck().get()).toBe('erased')
  expect(server.db.prepare("SELECT reason FROM decision WHERE id = 'df'").pluck().get()).toBe(other)
  const left = texts()
  expect(left).not.toContain('Aldous')
  expect(left).not.toContain('Wend')
  for (const { name } of students) expect({ name, there: left.includes(name) }).toEqual({ name, there: false })
  // Nor in any file beside the database, nor in what is left of its pages.
  const bytes = filesIn(dirname(server.file)).map((file) => [file, readFileSync(file, 'latin1')] as const)
  for (const trace of ['Aldous', 'Wend']) expect(bytes.filter(([, text]) => text.includes(trace)).map(([file]) => file)).toEqual([])
  expect(server.db.prepare('SELECT by_id FROM script_state WHERE version = 77').pluck().get()).toBe('erased')
  expect((await admin('get', '/api/people').expect(200)).text).not.toContain('erased')
  expect(figures()).toEqual(before)
  expect(issue().hash).toBe(was.hash)
  const [now, then] = [issue(), was].map((i) => (JSON.parse(i.content) as IssueContent).results)
  expect(now!.map((r) => r.name)).toEqual(then!.map((r) => r.candidate))
  expect(now!.map((r) => ({ ...r, name: '' }))).toEqual(then!.map((r) => ({ ...r, name: '' })))
  expect((await installed()).namelessAt).not.toBeNull()
  await admin('delete', names, { reasons: [] }).expect(409)
  expect((await admin('get', names).expect(200)).body).toEqual({
    students: 0,
    works: 0,
    deliveries: 0,
    remarks: 0,
    rolls: 0,
    letters: 0,
    sent: 0,
    reasons: [],
  })
})

test('what is begun and broken off is not called nameless, and ends when it is asked for again', async () => {
  await admin('put', '/api/installation/courses/cfs118-2026/away', { away: true }).expect(204)
  server.db.exec("CREATE TRIGGER crash BEFORE UPDATE OF nameless_at ON course BEGIN SELECT RAISE(ABORT, 'crash'); END")
  const other = '/api/installation/courses/cfs118-2026/names'
  await admin('delete', other, { reasons: [] }).expect(500)
  const state = () => server.db.prepare("SELECT nameless_at AS at FROM course WHERE id = 'cfs118-2026'").get()
  expect(state()).toEqual({ at: null })
  server.db.exec('DROP TRIGGER crash')
  await admin('delete', other, { reasons: [] }).expect(200)
  expect(state()).not.toEqual({ at: null })
})
