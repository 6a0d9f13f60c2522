import { USUAL_USE, type OwnWork, type Plan } from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

const { server, lead } = demoServer()
let student: Client
let studentId: string
beforeAll(async () => {
  student = await server.as('student')
  studentId = (server.db.prepare("SELECT id FROM student WHERE person_id = 'student'").get() as { id: string }).id
  // Put on a boundary by a typed mark in the demo: here their reading shall count.
  server.db.prepare('UPDATE script SET entered = NULL WHERE id = ?').run(`${COURSE}-field-book-1:${studentId}`)
}, 60_000)

const own = async (title: string) =>
  ((await student('get', api('/own-work')).expect(200)).body as OwnWork).work.find((w) => w.assessment === title)!
/** Sets what the readings of the student's script say, and gives back how many there are. */
const say = (item: string, words: { comment?: string; criteria?: object; notes?: string }) =>
  server.db
    .prepare('UPDATE reading SET comment = ?, criterion_comments = ?, notes = ? WHERE script_id = ?')
    .run(words.comment ?? '', JSON.stringify(words.criteria ?? {}), words.notes ?? '', `${COURSE}-${item}:${studentId}`).changes
const use = async (item: string, change: Partial<typeof USUAL_USE>) => {
  const { version } = ((await lead('get', api('/plan'))).body as Plan).assessments.find((a) => a.id === `${COURSE}-${item}`)!
  await lead('patch', api(`/assessments/${COURSE}-${item}`), { version, use: { ...USUAL_USE, ...change } }).expect(200)
}

test('remarks come with the released mark, by criterion, with the points of the one reading; notes for markers never', async () => {
  expect(
    say('field-book-1', { comment: ' Closed well. ', criteria: { sketches: 'A north point.', reduction: ' ' }, notes: 'FOR-MARKERS' }),
  ).toBe(1)
  const { remarks, mark } = await own('Field book 1')
  expect(remarks).toEqual([
    {
      comment: 'Closed well.',
      parts: [
        { title: 'Entries', words: '', points: { given: expect.any(Number) as number, of: 15, takenOff: false } },
        { title: 'Sketches', words: 'A north point.', points: { given: expect.any(Number) as number, of: 10, takenOff: false } },
        { title: 'Reduction', words: '', points: { given: expect.any(Number) as number, of: 10, takenOff: false } },
      ],
    },
  ])
  expect(remarks[0]!.parts.reduce((sum, p) => sum + p.points!.given, 0)).toBeCloseTo(mark!, 9)
  const { text } = await student('get', api('/own-work'))
  expect(text).not.toContain('FOR-MARKERS')
  const names = server.db.prepare("SELECT name FROM person p JOIN course_role c ON c.person_id = p.id WHERE c.role = 'marker'").all() as {
    name: string
  }[]
  expect(names.filter((m) => text.includes(m.name))).toEqual([])
})

test('switched off, or held, they are not sent', async () => {
  await use('field-book-1', { remarks: false })
  expect((await own('Field book 1')).remarks).toEqual([])
  await use('field-book-1', {})
  expect((await own('Field book 1')).remarks).toHaveLength(1)
  const assessmentId = `${COURSE}-field-book-1`
  const { version } = server.db.prepare('SELECT version FROM script WHERE id = ?').get(`${assessmentId}:${studentId}`) as {
    version: number
  }
  const cell = { studentId, assessmentId, version, mark: null, status: 'held', daysLate: 0 }
  await lead('patch', api('/sheet'), { cells: [cell] }).expect(200)
  expect(await own('Field book 1')).toMatchObject({ status: 'held', mark: null, levels: null, remarks: [] })
  // Nor one that is typed while it is held, anywhere in the answer.
  const typed = { ...cell, version: version + 1, mark: 13.371 }
  await lead('patch', api('/sheet'), { cells: [typed] }).expect(200)
  await lead('patch', api('/student-view'), { soFar: true }).expect(200)
  const { text } = await student('get', api('/own-work'))
  expect(text).not.toContain('13.371')
  const section = server.db.prepare('SELECT section_id FROM enrolment WHERE student_id = ?').pluck().get(studentId) as string
  expect((await lead('get', api(`/sections/${section}/class`)).expect(200)).text).not.toContain('13.371')
  await lead('patch', api('/student-view'), { soFar: false }).expect(200)
  await lead('patch', api('/sheet'), { cells: [{ ...cell, version: version + 2 }] }).expect(200)
})

test('before release nothing is said; of several readings the words stand one after the other, without points', async () => {
  expect(say('map', { comment: 'Shed with judgement.', criteria: { relief: 'Timid.' }, notes: 'FOR-MARKERS' })).toBe(2)
  expect(await own('Map project')).toMatchObject({ released: false, remarks: [] })
  expect((await student('get', api('/own-work'))).text).not.toContain('Timid.')
  server.db.prepare('UPDATE placement SET release = ? WHERE assessment_id = ?').run('{"kind":"by hand","released":true}', `${COURSE}-map`)
  await use('map', {})
  const { remarks } = await own('Map project')
  expect(remarks.map((r) => r.comment)).toEqual(['Shed with judgement.', 'Shed with judgement.'])
  expect(remarks[0]!.parts).toEqual([{ title: 'Relief and terrain', words: 'Timid.', points: null }])
})

test('a note beside a judgement stands under what it was noted on', async () => {
  expect(say('viva-1', { criteria: { 'What was claimed': 'Little, and all of it held.' } })).toBe(3)
  server.db.prepare('UPDATE placement SET release = ? WHERE assessment_id = ?').run('{"kind":"at once"}', `${COURSE}-viva-1`)
  await use('viva-1', { noteOn: ['What was claimed'] })
  const { remarks } = await own('Viva')
  expect(remarks[0]!.parts).toEqual([{ title: 'What was claimed', words: 'Little, and all of it held.', points: null }])
})

test('the levels that stand are those of the one reading, or what was agreed on criterion by criterion; of several readings none', async () => {
  const scriptId = `${COURSE}-field-book-1:${studentId}`
  const bump = () => server.db.prepare('UPDATE course SET version = version + 1, plan_version = plan_version + 1 WHERE id = ?').run(COURSE)
  server.db.prepare("UPDATE script SET status = 'in', days_late = 0 WHERE id = ?").run(scriptId)
  bump()
  await use('field-book-1', {})
  const one = await own('Field book 1')
  const picks = JSON.parse(
    server.db.prepare<[string], string>('SELECT picks FROM reading WHERE script_id = ?').pluck().get(scriptId)!,
  ) as Record<string, number>
  expect(one.levels).toMatchObject({ agreed: false, judged: { picks, judgement: null }, standard: { kind: 'scheme' } })
  const reading = server.db.prepare<[string], { mark: number }>('SELECT mark FROM reading WHERE script_id = ?').get(scriptId)!
  const other = server.db.prepare<[], string>("SELECT id FROM person WHERE sign_in = 'rune.daal'").pluck().get()!
  server.db
    .prepare(
      "INSERT INTO reading (id, script_id, marker_id, mark, picks, state, handed_in_at) VALUES ('second', ?, ?, ?, '{}', 'handed in', '2026-11-01T10:00:00.000Z')",
    )
    .run(scriptId, other, reading.mark)
  bump()
  expect((await own('Field book 1')).levels).toBeNull()
  const decision = server.db.prepare<[string], string>('SELECT id FROM decision WHERE course_id = ? LIMIT 1').pluck().get(COURSE)!
  const rule = { kind: 'criteria', picks: { ...picks, sketches: 3 }, mark: 20, reason: 'looked at together' }
  server.db
    .prepare('INSERT INTO agreed_mark (script_id, decision_id, mark, rule, in_force) VALUES (?, ?, 20, ?, 1)')
    .run(scriptId, decision, JSON.stringify(rule))
  bump()
  expect((await own('Field book 1')).levels).toMatchObject({ agreed: true, judged: { picks: rule.picks } })
  await use('field-book-1', { remarks: false })
  expect((await own('Field book 1')).levels).toBeNull()
})

test('a remark beside a typed mark is read with it, once it is released', async () => {
  const id = `${COURSE}-pacing`
  const version = server.db.prepare<[string], number>('SELECT version FROM script WHERE id = ?').pluck().get(`${id}:${studentId}`) ?? 0
  const cell = { studentId, assessmentId: id, version, mark: 12, status: 'in', daysLate: 0, remark: 'Close the loop.' }
  expect((await lead('patch', api('/sheet'), { cells: [cell] }).expect(200)).body).toMatchObject({ refused: [] })
  const release = (as: object) => server.db.prepare('UPDATE placement SET release = ? WHERE assessment_id = ?').run(JSON.stringify(as), id)
  release({ kind: 'by hand', released: false })
  await use('pacing', {})
  expect((await student('get', api('/own-work'))).text).not.toContain('Close the loop.')
  release({ kind: 'at once' })
  await use('pacing', {})
  expect((await own('Pacing and compass')).remarks).toEqual([{ comment: 'Close the loop.', parts: [] }])
  await use('pacing', { remarks: false })
  expect((await own('Pacing and compass')).remarks).toEqual([])
})
