import type { OwnWork, Question, StudentView } from '#contract'
import { shiftDay } from '#core/roll'
import { clockIn, machineZone } from '../../kernel/clock'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

const BOOK = `${COURSE}-field-book-1`
const MAP = `${COURSE}-map`
const REASON = 'The north point is on the second sheet.'

const { server, lead } = demoServer()
let student: Client
let teacher: Client
let stranger: Client
let studentId: string
beforeAll(async () => {
  student = await server.as('student')
  studentId = server.db.prepare<[], string>("SELECT id FROM student WHERE person_id = 'student'").pluck().get()!
  const [own, other] = server.db
    .prepare<[string], string>(
      `SELECT p.sign_in FROM person p JOIN course_role r ON r.person_id = p.id AND r.role = 'marker' LEFT JOIN section c ON c.teacher_id = p.id
         AND c.id = (SELECT section_id FROM enrolment WHERE student_id = ? AND to_day IS NULL)
       WHERE p.sign_in NOT LIKE 'x%' GROUP BY p.id ORDER BY c.id IS NULL LIMIT 2`,
    )
    .pluck()
    .all(studentId)
  teacher = await server.as(own!)
  stranger = await server.as(other!)
}, 60_000)

const own = async (id = BOOK) => ((await student('get', api('/own-work')).expect(200)).body as OwnWork).work.find((w) => w.id === id)!
const set = (body: object) => lead('patch', api('/student-view'), body)
const ask = (body: object = {}) =>
  student('post', api('/own-work/questions'), { assessmentId: BOOK, criterionId: null, reason: REASON, ...body })
const questions = async (who: Client) => (await who('get', api('/questions')).expect(200)).body as Question[]
const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
const letters = (personId: string) =>
  server.db.prepare<[string], string>("SELECT subject FROM letter WHERE to_id = ? AND subject LIKE '%ask%'").pluck().all(personId)
/** As if it had been marked so many days ago. */
function markedDaysAgo(days: number): void {
  const day = shiftDay(clockIn(machineZone()).today(), -days)
  const scriptId = `${BOOK}:${studentId}`
  server.db.prepare('UPDATE script_state SET at = ? WHERE script_id = ?').run(`${day}T12:00:00.000Z`, scriptId)
  server.db.prepare('UPDATE reading SET handed_in_at = ? WHERE script_id = ?').run(`${day}T12:00:00.000Z`, scriptId)
}

test('it can be asked within the days that the lead gives, counted from when the mark was there to be seen', async () => {
  const today = clockIn(machineZone()).today()
  await set({ askDays: 5 }).expect(200)
  markedDaysAgo(5)
  expect((await own()).asking).toMatchObject({ until: today })
  markedDaysAgo(6)
  expect((await own()).asking).toMatchObject({ until: null })
  expect(detail(await ask().expect(409))).toMatch(/days for asking about this mark are over/)
  await set({ askDays: null }).expect(200)
  markedDaysAgo(0)
  // What was asked stays in sight where nothing more can be.
  expect((await own()).asking).toMatchObject({ until: null, questions: [{ about: 'Sketches' }] })
  expect((await own(`${COURSE}-levelling`)).asking).toBeNull()
  await set({ askDays: 5 }).expect(200)
})

test('what is not out cannot be asked about, nor what it is not judged by', async () => {
  expect((await own(MAP)).asking).toBeNull()
  expect(detail(await ask({ assessmentId: MAP }).expect(404))).toMatch(/no mark of yours there/)
  expect(detail(await ask({ criterionId: 'relief' }).expect(422))).toMatch(/not judged by that/)
  expect(detail(await ask({ reason: 'Why?' }).expect(422))).toMatch(/looked at again/)
})

test('it reaches the teacher of the section and the lead, is answered once in words, and changes no mark', async () => {
  const { mark } = await own()
  await ask({ criterionId: 'reduction' }).expect(204)
  expect(detail(await ask({ criterionId: 'reduction' }).expect(409))).toMatch(/asked that already/)
  const [open] = (await questions(lead)).filter((q) => q.studentId === studentId && q.answer === null)
  expect(open).toMatchObject({ about: 'Reduction', reason: REASON, markThen: mark, assessment: 'Field book 1' })
  expect(letters('lead')).toHaveLength(1)
  expect((await questions(teacher)).map((q) => q.id)).toContain(open!.id)
  expect((await questions(stranger)).map((q) => q.id)).not.toContain(open!.id)
  const answer = (who: Client) => who('put', api(`/questions/${open!.id}/answer`), { words: 'It was looked at: the sums close.' })
  await answer(stranger).expect(404)
  await answer(teacher).expect(204)
  expect(detail(await answer(lead).expect(409))).toMatch(/has answered it already/)
  const after = await own()
  expect(after.mark).toBe(mark)
  expect(after.asking!.questions.at(-1)).toMatchObject({ about: 'Reduction', answer: { words: 'It was looked at: the sums close.' } })
  expect(letters('student')).toHaveLength(1)
  expect(() => server.db.exec('DELETE FROM mark_question')).toThrow(/what was asked stays/)
  // It is no longer open, so that it may be asked anew.
  await ask({ criterionId: 'reduction' }).expect(204)
})

test('who sees no names is told numbers', async () => {
  server.db.prepare('UPDATE course SET names_to_markers = 0 WHERE id = ?').run(COURSE)
  const { candidate } = server.db.prepare('SELECT candidate FROM student WHERE id = ?').get(studentId) as { candidate: string }
  const seen = (await questions(teacher)).filter((q) => q.studentId === studentId)
  expect(seen.map((q) => q.student)).toEqual(seen.map(() => candidate))
  expect(seen.length).toBeGreaterThan(0)
  server.db.prepare('UPDATE course SET names_to_markers = 1 WHERE id = ?').run(COURSE)
})

describe('the course so far', () => {
  test('holds released marks and nothing of the others; only where the lead shows it', async () => {
    await set({ soFar: false }).expect(200)
    const work = (await student('get', api('/own-work'))).body as OwnWork
    expect(work.course).toBeNull()
    expect(((await set({ soFar: true }).expect(200)).body as StudentView).soFar).toBe(true)
    const now = (await student('get', api('/own-work'))).body as OwnWork
    const released = now.work.filter((w) => w.released).map((w) => w.id)
    expect(now.course!.marks.length).toBeGreaterThan(3)
    expect(now.course!.marks.filter((m) => !released.includes(m.assessmentId))).toEqual([])
    for (const m of now.course!.marks) expect(m.mark).toBe(now.work.find((w) => w.id === m.assessmentId)!.mark)
    expect(now.course!.assessments.map((a) => a.id).sort()).toEqual(now.work.map((w) => w.id).sort())
  })
})
