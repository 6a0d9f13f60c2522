import { mkdirSync, readdirSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { settleBy, standingRows, workingsOf } from '#core/trial'
import {
  unpackTable,
  type IssueContent,
  type IssueHead,
  type Letter,
  type OwnWork,
  type RecordsSending,
  type RecordsState,
  type TableInColumns,
} from '#contract'
import { clockIn } from '../../kernel/clock'
import type { Message, Post } from '../../standins/post'
import type { WorkerPool } from '../../workers/pool'
import { announcing } from './announce'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'
import { tablesIn, takenOut } from '../../testing/taken-out'

const { server, lead } = demoServer()
let external: Client
let student: Client
let folder: string
beforeAll(async () => {
  external = await server.as('tamsin.oyelaran.holt')
  student = await server.as('student')
  folder = join(dirname(server.file), 'records-office', COURSE)
}, 60_000)

const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
const KEY = (n: number) => `00000000-0000-4000-8000-00000000000${n}`
const stateNow = async () => (await lead('get', api('/hand-overs')).expect(200)).body as RecordsState
const own = async () => ((await student('get', api('/own-work')).expect(200)).body as OwnWork).result
const sign = async (statement: string): Promise<IssueHead> => {
  const head = (await lead('post', api('/issues'), { statement }).expect(200)).body as IssueHead
  return (await external('post', api(`/issues/${head.number}/signatures`), { statement: 'comparable', hash: head.hash }).expect(200))
    .body as IssueHead
}
/** Settles all that is open, so that results can be confirmed. */
async function settleAll(): Promise<void> {
  const w = workingsOf(unpackTable((await lead('get', api('/table'))).body as TableInColumns))
  const open = standingRows(w).filter((s) => s.source === 'open')
  const changes = settleBy(
    w,
    open.map((s) => s.cell),
    { kind: 'mean' },
    0.5,
  )
  await lead('post', api('/decisions'), { changes, reason: 'before the board' }).expect(200)
}

test('nothing is released or handed over before all who must have signed', async () => {
  await settleAll()
  const head = (await lead('post', api('/issues'), { statement: 'moderated' }).expect(200)).body as IssueHead
  expect(head.inForce).toBe(false)
  expect(detail(await lead('post', api('/hand-overs'), { key: KEY(1) }).expect(409))).toMatch(/No issue is in force/)
  expect(detail(await lead('put', api('/result-releases'), { sectionIds: ['x'], onDay: '2026-12-20' }).expect(409))).toMatch(
    /No issue is in force/,
  )
  await external('post', api('/issues/1/signatures'), { statement: 'comparable', hash: head.hash }).expect(200)
  // An objection stops it, for as long as it stands.
  const objected = (await external('post', api('/issues/1/objections'), { reason: 'One section is not moderated.' }).expect(200))
    .body as IssueHead
  expect(objected).toMatchObject({ inForce: false, objections: [{ reason: 'One section is not moderated.', own: true, takenBack: null }] })
  await lead('post', api('/hand-overs'), { key: KEY(1) }).expect(409)
  const id = objected.objections[0]!.id
  await lead('post', api(`/issues/1/objections/${id}/take-back`)).expect(404)
  expect((await external('post', api(`/issues/1/objections/${id}/take-back`)).expect(200)).body).toMatchObject({ inForce: true })
})

test('handed over, two rows are refused, one is mended and sent alone; an answer that is lost is asked for again and enters nothing twice', async () => {
  const { results } = (await lead('get', api('/issues/1'))).body as IssueContent
  const graded = results.filter((r) => r.grade !== null)
  const number = new Map(
    (
      server.db.prepare('SELECT id, external_id AS number FROM student WHERE course_id = ?').all(COURSE) as { id: string; number: string }[]
    ).map((s) => [s.id, s.number]),
  )
  const [unknown, withdrawn] = [graded[3]!, graded[8]!]
  const students = Object.fromEntries(graded.map((r) => [number.get(r.studentId)!, 'enrolled']))
  Reflect.deleteProperty(students, number.get(unknown.studentId)!)
  students['right-number'] = 'enrolled'
  students[number.get(withdrawn.studentId)!] = 'withdrawn'
  mkdirSync(folder, { recursive: true })
  writeFileSync(join(folder, 'register.json'), JSON.stringify({ students, grades: ['Distinction', 'Merit', 'Credit', 'Pass', 'Refer'] }))

  const { by } = server.db.prepare("SELECT person_id AS by FROM course_role WHERE course_id = ? AND role = 'lead'").get(COURSE) as {
    by: string
  }
  const tell = server.db.prepare(
    "INSERT INTO stand_in_set (course_id, name, fails, by_id, at) VALUES (?, 'records office', ?, ?, '2026-12-20')",
  )
  tell.run(COURSE, 1, by)
  expect(detail(await lead('post', api('/hand-overs'), { key: KEY(2) }).expect(503))).toMatch(/did not answer/)
  expect(detail(await lead('post', api('/hand-overs'), { key: KEY(3) }).expect(409))).toMatch(/not answered the last hand-over/)
  tell.run(COURSE, 0, by)
  const first = (await lead('post', api('/hand-overs'), { key: KEY(2) }).expect(200)).body as RecordsSending
  expect(first).toMatchObject({ sent: graded.length, number: 1 })
  expect(first.refused.map((r) => r.studentId).sort()).toEqual([unknown.studentId, withdrawn.studentId].sort())
  // Asked once more under the same key, the answer is the same, and the office has it once.
  expect((await lead('post', api('/hand-overs'), { key: KEY(2) }).expect(200)).body).toEqual(first)
  expect(readdirSync(folder).filter((f) => f !== 'register.json')).toEqual([`${KEY(2)}.json`])
  expect(await stateNow()).toMatchObject({ taken: graded.length - 2, waiting: 0, ungraded: results.length - graded.length })

  const mended = [{ studentId: unknown.studentId, number: 'right-number' }]
  const second = (await lead('post', api('/hand-overs'), { key: KEY(4), mended }).expect(200)).body as RecordsSending
  expect(second).toMatchObject({ sent: 1, refused: [] })
  const after = await stateNow()
  expect(after.taken).toBe(graded.length - 1)
  expect(after.refused).toEqual([
    expect.objectContaining({ studentId: withdrawn.studentId, why: expect.stringMatching(/has withdrawn/) as string }),
  ])
  expect(detail(await lead('post', api('/hand-overs'), { key: KEY(5) }).expect(409))).toMatch(/nothing is left/)
  expect(detail(await lead('post', api('/hand-overs'), { key: KEY(6), mended }).expect(409))).toMatch(/taken by now/)
  // Taken under a number that is somebody else's after all: withdrawn, mended, sent anew, and remembered so.
  expect(second.otherwise).toEqual([{ studentId: unknown.studentId, number: 'right-number' }])
  const withdraw = (who: Client, studentId: string) => who('post', api(`/hand-overs/${KEY(4)}/withdrawn`), { studentId })
  await withdraw(external, unknown.studentId).expect(403)
  expect((await withdraw(lead, unknown.studentId).expect(200)).body).toMatchObject({ otherwise: [], refused: [{ number: 'right-number' }] })
  expect(detail(await withdraw(lead, unknown.studentId).expect(409))).toMatch(/no result of this student/)
  expect(await stateNow()).toMatchObject({ taken: graded.length - 2, waiting: 0 })
  expect((await stateNow()).refused.find((r) => r.studentId === unknown.studentId)!.why).toMatch(/^Withdrawn by Ines Valdry on /)
  writeFileSync(
    join(folder, 'register.json'),
    JSON.stringify({ students: { ...students, 'other-number': 'enrolled' }, grades: ['Distinction', 'Merit', 'Credit', 'Pass', 'Refer'] }),
  )
  const anew = [{ studentId: unknown.studentId, number: 'other-number' }]
  const third = (await lead('post', api('/hand-overs'), { key: KEY(7), mended: anew }).expect(200)).body as RecordsSending
  expect(third).toMatchObject({ sent: 1, refused: [], otherwise: anew })
  expect((await stateNow()).taken).toBe(graded.length - 1)
  expect(() => server.db.exec("UPDATE hand_over SET receipt = 'x'")).toThrow(/answered once/)
  expect(() => server.db.exec('DELETE FROM hand_over')).toThrow(/never deleted/)
})

test('students see their result once it is released to their section, told by a letter, and what a later issue changes', async () => {
  const { id: studentId, section } = server.db
    .prepare(
      "SELECT s.id, e.section_id AS section FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL WHERE s.person_id = 'student'",
    )
    .get() as { id: string; section: string }
  expect(await own()).toBeNull()
  await lead('put', api('/result-releases'), { sectionIds: [section], onDay: '2999-01-01' }).expect(200)
  expect(await own()).toBeNull()
  await lead('put', api('/result-releases'), { sectionIds: [section], onDay: '2026-01-01' }).expect(200)
  const issued = ((await lead('get', api('/issues/1'))).body as IssueContent).results.find((r) => r.studentId === studentId)!
  expect(await own()).toMatchObject({ issue: 1, grade: issued.grade, percent: issued.rounded })
  expect(detail(await lead('put', api('/result-releases'), { sectionIds: [section], onDay: null }).expect(409))).toMatch(
    /can’t be taken back/,
  )

  await lead('post', api('/reopen'), { reason: 'an appeal' }).expect(200)
  // The issue before stays in force, whatever is typed meanwhile.
  const cell = server.db
    .prepare('SELECT version, entered, assessment_id AS assessmentId FROM script WHERE student_id = ? AND entered > 5 LIMIT 1')
    .get(studentId) as {
    version: number
    entered: number
    assessmentId: string
  }
  await lead('patch', api('/sheet'), {
    cells: [{ studentId, assessmentId: cell.assessmentId, version: cell.version, mark: 1, status: 'in', daysLate: 0 }],
  }).expect(200)
  expect(await own()).toMatchObject({ issue: 1, percent: issued.rounded })
  const before = (
    (await lead('get', api('/issues/1/against/now')).expect(200)).body as { students: { studentId: string; marks: unknown[] }[] }
  ).students
  expect(before).toEqual([
    expect.objectContaining({
      studentId,
      marks: [
        expect.objectContaining({
          now: expect.objectContaining({ mark: 1 }) as object,
          by: [{ who: 'Ines Valdry', did: 'typed', at: expect.any(String) as string }],
        }),
      ],
    }),
  ])
  const second = await sign('after the appeal')
  expect(second).toMatchObject({ number: 2, inForce: true })
  expect((await own())!.issue).toBe(2)
  const letters = ((await lead('get', api('/letters')).expect(200)).body as Letter[]).map((l) => l.subject)
  expect(letters.filter((s) => s.endsWith('your result is out'))).toHaveLength(1)
  expect(letters.filter((s) => s.endsWith('your result has changed'))).toHaveLength(1)
  // Who signed the issue is told that it was opened again.
  expect(letters.filter((s) => s.endsWith('issue 1 is reopened'))).toHaveLength(1)
})

test('released for a later day, its students get their letter on that day: each once, also where the post was down in between', async () => {
  const section = server.db
    .prepare<[string], { id: string }>(
      'SELECT s.id FROM section s WHERE s.course_id = ? AND NOT EXISTS (SELECT 1 FROM result_release r WHERE r.section_id = s.id) LIMIT 1',
    )
    .get(COURSE)!
  const put = (id: string, person: string) => server.db.prepare('UPDATE student SET person_id = ? WHERE id = ?').run(person, id)
  const students = server.db
    .prepare<[string], string>('SELECT student_id FROM enrolment WHERE section_id = ? AND to_day IS NULL ORDER BY student_id LIMIT 2')
    .pluck()
    .all(section.id)
  const people = server.db.prepare<[], string>("SELECT id FROM person WHERE sign_in IN ('rune.daal', 'tamsin.oyelaran.holt')").pluck().all()
  students.forEach((s, i) => put(s, people[i]!))

  const sent: Message[] = []
  let down = false
  const send = (m: Message) => {
    if (down && sent.length > 0) return Promise.reject(new Error('the post is down'))
    sent.push(m)
    return Promise.resolve()
  }
  let day = '2027-01-04'
  const clock = clockIn('UTC', () => new Date(`${day}T09:00:00Z`))
  const { due } = announcing(server.db, { send } as Post, {} as WorkerPool, clock)
  await lead('put', api('/result-releases'), { sectionIds: [section.id], onDay: '2027-01-05' }).expect(200)
  expect(await due()).toBe(0)
  day = '2027-01-05'
  down = true
  expect(await due()).toBe(1)
  down = false
  // Asked for twice at the same moment, it is done once.
  expect(await Promise.all([due(), due()])).toEqual([1, 0])
  expect(sent.map((m) => m.to.signIn).sort()).toEqual(['rune.daal', 'tamsin.oyelaran.holt'])
  expect(sent.every((m) => m.subject.endsWith('your result is out') && m.body.includes('issue 2'))).toBe(true)
})

test('OneRoster: every result stands once, on a line item of its section that is in a category', async () => {
  const csv = (await lead('get', api('/issues/1/for-records.csv')).expect(200)).text
  expect(csv.split('\r\n')[1]).toMatch(/^\d+,.*,CFS 214,autumn 2026,.*,(final|pending \d+),1,\d{4}-\d\d-\d\d,Ines Valdry \(lead\)/)
  const answer = await takenOut(lead, '/issues/1/one-roster.zip')
  const { hash } = ((await lead('get', api('/issues')).expect(200)).body as IssueHead[]).find((i) => i.number === 1)!
  expect(answer.headers['content-disposition']).toContain(hash.slice(0, 12))
  const rows = tablesIn(answer.body)
  const manifest = new Map(rows('manifest.csv').map((r) => [r.propertyName, r.value]))
  expect([manifest.get('oneroster.version'), manifest.get('file.results'), manifest.get('file.users')]).toEqual(['1.2', 'bulk', 'absent'])
  const categories = new Set(rows('categories.csv').map((c) => c.sourcedId))
  const items = new Map(rows('lineItems.csv').map((i) => [i.sourcedId, i]))
  for (const i of items.values()) {
    expect(categories.has(i.categorySourcedId)).toBe(true)
    expect(i.dueDate).toMatch(/^\d{4}-\d{2}-\d{2}$/)
  }
  const results = rows('results.csv')
  expect(new Set(results.map((r) => r.sourcedId)).size).toBe(results.length)
  expect(results.every((r) => items.has(r.lineItemSourcedId))).toBe(true)
  const content = (await lead('get', api('/issues/1'))).body as IssueContent
  expect(results.filter((r) => r.textScore !== '').map((r) => r.textScore)).toEqual(content.results.flatMap((r) => r.grade ?? []))
})
