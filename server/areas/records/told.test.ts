import { mkdirSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { settleBy, standingRows, workingsOf } from '#core/trial'
import {
  unpackTable,
  type CourseHead,
  type IssueContent,
  type IssueHead,
  type Letter,
  type OwnWork,
  type RecordsSending,
  type RecordsState,
  type TableInColumns,
} from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

const { server, lead } = demoServer()
let external: Client
let student: Client
let studentId: string
beforeAll(async () => {
  external = await server.as('tamsin.oyelaran.holt')
  student = await server.as('student')
  studentId = server.db.prepare("SELECT id FROM student WHERE person_id = 'student'").pluck().get() as string
  const w = workingsOf(unpackTable((await lead('get', api('/table'))).body as TableInColumns))
  const open = standingRows(w).filter((s) => s.source === 'open')
  const changes = settleBy(
    w,
    open.map((s) => s.cell),
    { kind: 'mean' },
    0.5,
  )
  await lead('post', api('/decisions'), { changes, reason: 'before the board' }).expect(200)
}, 60_000)

const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
const key = (n: number) => `00000000-0000-4000-8000-00000000000${n}`
const sign = async (): Promise<IssueHead> => {
  const head = (await lead('post', api('/issues'), { statement: 'moderated' }).expect(200)).body as IssueHead
  await external('post', api(`/issues/${head.number}/signatures`), { statement: 'comparable', hash: head.hash }).expect(200)
  return head
}
const object = async (number: number): Promise<string> =>
  (
    (await external('post', api(`/issues/${number}/objections`), { reason: 'One section is not moderated.' }).expect(200)).body as IssueHead
  ).objections.at(-1)!.id
const takeBack = (number: number, id: string) => external('post', api(`/issues/${number}/objections/${id}/take-back`))
const reopen = () => lead('post', api('/reopen'), { reason: 'an appeal' }).expect(200)
const letters = async (ending: string) =>
  ((await lead('get', api('/letters')).expect(200)).body as Letter[]).filter((l) => l.subject.endsWith(ending))
const own = async () => ((await student('get', api('/own-work')).expect(200)).body as OwnWork).result
const inForce = async () =>
  ((await lead('get', '/api/courses').expect(200)).body as CourseHead[]).find((c) => c.id === COURSE)!.issueInForce
/** Another mark in a work of the student’s, so that their result changes. */
async function mark(value: number): Promise<void> {
  const cell = server.db
    .prepare('SELECT version, assessment_id AS assessmentId FROM script WHERE student_id = ? AND entered IS NOT NULL ORDER BY id LIMIT 1')
    .get(studentId) as { version: number; assessmentId: string }
  await lead('patch', api('/sheet'), { cells: [{ studentId, ...cell, mark: value, status: 'in', daysLate: 0 }] }).expect(200)
}

test('an issue that was objected to when it was reopened never counts again, and its letter does not say that it does', async () => {
  const { number } = await sign()
  const section = server.db
    .prepare('SELECT section_id FROM enrolment WHERE student_id = ? AND to_day IS NULL')
    .pluck()
    .get(studentId) as string
  await lead('put', api('/result-releases'), { sectionIds: [section], onDay: '2026-01-01' }).expect(200)
  expect(await inForce()).toBe(number)
  const id = await object(number)
  expect([await inForce(), await own()]).toEqual([null, null])
  await reopen()
  expect((await letters('is reopened')).map((l) => l.body)).toEqual([
    expect.stringContaining('No issue is in force until the next one is signed.'),
  ])
  expect(detail(await takeBack(number, id).expect(409))).toMatch(/closed/)
  expect([await inForce(), await own()]).toEqual([null, null])
})

test('a letter says what changed against what the student was last told, and is sent once however an objection comes and goes', async () => {
  await mark(1)
  const { number } = await sign()
  expect(number).toBe(2)
  // Told of issue 1 by the letter of its release, though it was objected to.
  expect(await letters('your result has changed')).toHaveLength(1)
  await takeBack(number, await object(number)).expect(200)
  expect(await letters('your result has changed')).toHaveLength(1)
  const id = await object(number)
  await reopen()
  await takeBack(number, id).expect(409)
  await mark(39)
  await sign()
  expect(await letters('your result has changed')).toHaveLength(2)
})

test('nobody signs over their own objection', async () => {
  await reopen()
  expect((await letters('issue 3 is reopened'))[0]!.body).toContain('Issue 3 stays in force until the next one is signed.')
  const head = (await lead('post', api('/issues'), { statement: 'moderated' }).expect(200)).body as IssueHead
  const id = await object(head.number)
  const signing = { statement: 'comparable', hash: head.hash }
  expect(detail(await external('post', api(`/issues/${head.number}/signatures`), signing).expect(409))).toMatch(/Take your objection back/)
  await takeBack(head.number, id).expect(200)
  await external('post', api(`/issues/${head.number}/signatures`), signing).expect(200)
})

const handOver = (n: number, mended?: { studentId: string; number: string }[]) =>
  lead('post', api('/hand-overs'), { key: key(n), ...(mended && { mended }) })
const state = async () => (await lead('get', api('/hand-overs')).expect(200)).body as RecordsState

test('a mended number is nobody else’s, refused rows can be sent again as they are, and what was mended is remembered', async () => {
  const { results } = (await lead('get', api('/issues/4')).expect(200)).body as IssueContent
  const graded = results.filter((r) => r.grade !== null)
  const roll = server.db.prepare('SELECT id, name, external_id AS number FROM student WHERE course_id = ?').all(COURSE) as {
    id: string
    name: string
    number: string
  }[]
  const of = new Map(roll.map((s) => [s.id, s]))
  const [wrong, mendedThere, other] = [graded[3]!, graded[8]!, graded[5]!].map((r) => of.get(r.studentId)!)
  const register = Object.fromEntries(graded.map((r) => [of.get(r.studentId)!.number, 'enrolled']))
  Reflect.deleteProperty(register, wrong!.number)
  Reflect.deleteProperty(register, mendedThere!.number)
  const folder = join(dirname(server.file), 'records-office', COURSE)
  mkdirSync(folder, { recursive: true })
  const put = (students: object) =>
    writeFileSync(join(folder, 'register.json'), JSON.stringify({ students, grades: ['Distinction', 'Merit', 'Credit', 'Pass', 'Refer'] }))
  put(register)
  expect(((await handOver(1).expect(200)).body as RecordsSending).refused).toHaveLength(2)
  expect(detail(await handOver(2, [{ studentId: wrong!.id, number: other!.number }]).expect(422))).toBe(
    `${other!.number} is the number of ${other!.name} on the roll.`,
  )
  expect(
    detail(
      await handOver(2, [
        { studentId: wrong!.id, number: 'right' },
        { studentId: mendedThere!.id, number: 'right' },
      ]).expect(422),
    ),
  ).toMatch(/right is typed for/)
  put({ ...register, right: 'enrolled', [mendedThere!.number]: 'enrolled' })
  // The office has mended its side: the same is sent again.
  await handOver(2, [{ studentId: mendedThere!.id, number: mendedThere!.number }]).expect(200)
  await handOver(3, [{ studentId: wrong!.id, number: 'right' }]).expect(200)
  expect((await state()).refused).toEqual([])

  await reopen()
  await mark(30)
  await sign()
  await handOver(4).expect(200)
  const sent = JSON.parse(server.db.prepare('SELECT sent FROM hand_over WHERE id = ?').pluck().get(key(4)) as string) as {
    studentId: string
    number: string
  }[]
  expect(sent.find((s) => s.studentId === wrong!.id)!.number).toBe('right')
  // Earlier hand-overs stay in sight.
  expect((await state()).list.map((h) => h.number)).toEqual([5, 4, 4, 4])
})

test('where a later issue was handed over and is objected to, the one before is not handed over on top', async () => {
  await object(5)
  expect(await inForce()).toBe(4)
  expect(detail(await handOver(5).expect(409))).toMatch(/^Issue 5 was handed over, and does not count now/)
})

test('a result that a student has seen stays in sight when they move to a section that is not released', async () => {
  const before = await own()
  expect(before).not.toBeNull()
  const other = server.db
    .prepare(
      'SELECT id FROM section s WHERE course_id = ? AND NOT EXISTS (SELECT 1 FROM result_release r WHERE r.section_id = s.id) LIMIT 1',
    )
    .pluck()
    .get(COURSE) as string
  server.db.prepare('UPDATE enrolment SET section_id = ? WHERE student_id = ? AND to_day IS NULL').run(other, studentId)
  server.db.prepare('UPDATE course SET version = version + 1, plan_version = plan_version + 1 WHERE id = ?').run(COURSE)
  expect(await own()).toEqual(before)
})
