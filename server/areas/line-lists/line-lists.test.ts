import type { Decision, LineList, Plan, ToJudge } from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

const { server, lead } = demoServer()
let external: Client
let marker: Client
let judgeIds: string[]
const students = Array.from({ length: 6 }, (_, i) => `${COURSE}-student-${i + 1}`)
beforeAll(async () => {
  external = await server.as('tamsin.oyelaran.holt')
  marker = await server.as('tadesse.abara')
  judgeIds = (
    server.db.prepare("SELECT id FROM person WHERE sign_in IN ('tadesse.abara', 'tamsin.oyelaran.holt') ORDER BY sign_in").all() as {
      id: string
    }[]
  ).map((p) => p.id)
}, 60_000)

const listsNow = async () => (await lead('get', api('/line-lists')).expect(200)).body as LineList[]
const own = async (who: Client) => (await who('get', api('/line-lists/to-judge')).expect(200)).body as ToJudge[]

test('people judge blind to the percent and to each other; what they said is shown once the list is closed', async () => {
  const { id } = (await lead('post', api('/line-lists'), { grade: 'Credit', studentIds: students, judgeIds }).expect(200)).body as {
    id: string
  }
  const [list] = await own(marker)
  expect(list).toMatchObject({ id, grade: 'Credit' })
  // Numbers of this list, in the order that was drawn, and nothing by which somebody is known elsewhere.
  expect(list!.students).toEqual(students.map((_, i) => ({ number: i + 1, able: null })))
  const numberOf = (studentId: string) =>
    (server.db.prepare('SELECT place FROM line_list_student WHERE list_id = ? AND student_id = ?').pluck().get(id, studentId) as number) + 1
  const say = (who: Client, studentId: string, able: boolean | null) =>
    who('put', api(`/line-lists/${id}/students/${numberOf(studentId)}`), { able })
  await say(marker, students[0]!, true).expect(204)
  await say(marker, students[1]!, true).expect(204)
  await say(marker, students[1]!, null).expect(204)
  await say(external, students[0]!, false).expect(204)
  expect((await own(external))[0]!.students.filter((s) => s.able !== null)).toEqual([{ number: numberOf(students[0]!), able: false }])
  expect(await listsNow()).toEqual([
    expect.objectContaining({
      students: 6,
      judgements: [],
      judges: [expect.objectContaining({ judged: 1 }), expect.objectContaining({ judged: 1 })],
    }),
  ])
  await lead('post', api(`/line-lists/${id}/close`)).expect(204)
  expect((await listsNow())[0]!.judgements).toEqual([
    { studentId: students[0], able: false },
    { studentId: students[0], able: true },
  ])
  await say(marker, students[2]!, true).expect(404)
  expect(await own(marker)).toEqual([])
})

test('what a judge has yet to read is left out, also by its text, until they have handed it in', async () => {
  const { db } = server
  const mine = db
    .prepare<[string, string], { scriptId: string; studentId: string; readingId: string }>(
      `SELECT s.id AS scriptId, s.student_id AS studentId, r.id AS readingId FROM reading r JOIN script s ON s.id = r.script_id
       JOIN assessment a ON a.id = s.assessment_id JOIN allotment l ON l.assessment_id = a.id AND l.student_id = s.student_id AND l.marker_id = r.marker_id
       WHERE a.course_id = ? AND r.state = 'handed in' AND r.marker_id = (SELECT id FROM person WHERE sign_in = ?) LIMIT 1`,
    )
    .get(COURSE, 'tadesse.abara')!
  db.prepare("UPDATE script SET text = 'A RIVER, DRAWN TWICE' WHERE id = ?").run(mine.scriptId)
  const two = [mine.studentId, students.find((s) => s !== mine.studentId)!]
  const { id } = (await lead('post', api('/line-lists'), { grade: 'Merit', studentIds: two, judgeIds }).expect(200)).body as { id: string }
  const place = db
    .prepare('SELECT place FROM line_list_student WHERE list_id = ? AND student_id = ?')
    .pluck()
    .get(id, mine.studentId) as number
  const read = async () => (await marker('get', api(`/line-lists/${id}/students/${place + 1}/works`)).expect(200)).text
  expect(await read()).toContain('A RIVER, DRAWN TWICE')
  db.prepare("UPDATE reading SET state = 'draft' WHERE id = ?").run(mine.readingId)
  expect(await read()).not.toContain('A RIVER, DRAWN TWICE')
  db.prepare("UPDATE reading SET state = 'handed in' WHERE id = ?").run(mine.readingId)
  await lead('post', api(`/line-lists/${id}/close`)).expect(204)
})

test('who does not judge a list sees and says nothing, and a list of strangers is refused', async () => {
  const { id } = (
    await lead('post', api('/line-lists'), { grade: 'Pass', studentIds: students, judgeIds: judgeIds.slice(0, 1) }).expect(200)
  ).body as {
    id: string
  }
  const stranger = (await own(marker)).some((l) => l.id === id) ? external : marker
  expect((await own(stranger)).map((l) => l.id)).not.toContain(id)
  await stranger('put', api(`/line-lists/${id}/students/1`), { able: true }).expect(404)
  await stranger('get', api(`/line-lists/${id}/students/1/works`)).expect(404)
  await marker('get', api('/line-lists')).expect(403)
  await lead('post', api('/line-lists'), { grade: 'Gold', studentIds: students, judgeIds }).expect(422)
  await lead('post', api('/line-lists'), { grade: 'Pass', studentIds: ['a', 'b'], judgeIds }).expect(422)
  await lead('post', api('/line-lists'), { grade: 'Pass', studentIds: students, judgeIds: ['nobody'] }).expect(422)
})

test('a list is of the grade under its present name, also once a decision to rename it is withdrawn', async () => {
  const { id } = (await lead('post', api('/line-lists'), { grade: 'Merit', studentIds: students, judgeIds }).expect(200)).body as {
    id: string
  }
  const { boundaries, head } = (await lead('get', api('/plan')).expect(200)).body as Plan
  const change = {
    kind: 'bound',
    boundaries: boundaries.map((b) => (b.grade === 'Merit' ? { ...b, grade: 'Worthy' } : b)),
    over: boundaries,
  }
  const decision = (await lead('post', api('/decisions'), { changes: [change], reason: `a new name in ${head.code}` }).expect(200))
    .body as Decision
  const grade = async () => (await listsNow()).find((l) => l.id === id)!.grade
  expect(await grade()).toBe('Worthy')
  expect((await own(marker)).find((l) => l.id === id)!.grade).toBe('Worthy')
  await lead('post', api(`/decisions/${decision.id}/withdraw`), { reason: 'the old name was right' }).expect(200)
  expect(await grade()).toBe('Merit')
  await lead('post', api(`/line-lists/${id}/close`)).expect(204)
})

test('who withdraws from the course is judged no more; the others keep their numbers', async () => {
  const { id } = (await lead('post', api('/line-lists'), { grade: 'Credit', studentIds: students, judgeIds }).expect(200)).body as {
    id: string
  }
  server.db
    .prepare(
      `UPDATE enrolment SET to_day = '2026-11-01' WHERE to_day IS NULL
         AND student_id = (SELECT student_id FROM line_list_student WHERE list_id = ? AND place = 1)`,
    )
    .run(id)
  expect((await own(marker)).find((l) => l.id === id)!.students.map((s) => s.number)).toEqual([1, 3, 4, 5, 6])
  await marker('put', api(`/line-lists/${id}/students/2`), { able: true }).expect(404)
  expect((await listsNow()).find((l) => l.id === id)!.students).toBe(5)
})

test('work on paper: the lead takes out which number is whose, and that is noted; nobody else may', async () => {
  const list = (await listsNow())[0]!
  const key = api(`/line-lists/${list.id}/numbers-of-papers.csv`)
  const [head, first] = (await lead('get', key).expect(200)).text.replace('\uFEFF', '').split(/\r?\n/)
  expect(head).toBe('number,candidate,name,section')
  const { candidate } = server.db
    .prepare<[string], { candidate: string }>(
      'SELECT candidate FROM student WHERE id = (SELECT student_id FROM line_list_student WHERE list_id = ? AND place = 0)',
    )
    .get(list.id)!
  expect(first!.split(',').slice(0, 2)).toEqual(['1', candidate])
  expect(server.db.prepare('SELECT words FROM audit ORDER BY rowid DESC LIMIT 1').pluck().get()).toMatch(/numbers-of-papers/)
  await marker('get', key).expect(403)
  await external('get', key).expect(403)
  await lead('get', api('/line-lists/nothing/numbers-of-papers.csv')).expect(404)
})
