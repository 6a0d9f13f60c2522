import { routes, unpackRoll, unpackTable, type TableInColumns, type RollFileKept, type RollInColumns } from '#contract'
import { gradeCourse } from '#core/grades'
import { shownDay } from '#core/roll'
import { toCourse, workingsOf, type TableLike } from '#core/trial'
import { FROM, rollFiles } from '../../testing/roll-files'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'
import { takenOut } from '../../testing/taken-out'
import { sheetIn } from '../../testing/sheet-of'

const { server, lead } = demoServer()
let marker: Client
beforeAll(async () => {
  marker = await server.as('rune.daal')
}, 60_000)

const roll = async () => unpackRoll((await lead('get', api('/roll')).expect(200)).body as RollInColumns)
const table = async () => unpackTable((await lead('get', api('/table')).expect(200)).body as TableInColumns)
const sent = (...of: Parameters<ReturnType<typeof rollFiles>>) => rollFiles(lead)(...of)

test('a file is tried without a change, brought in once, and brings nothing the second time', async () => {
  const before = await roll()
  const [a, b] = before.students
  const section = before.sections[3]!
  const file = `candidate,name,section,teacher,meets\n${a!.candidate},${a!.name} Again,${section.code},Nobody Known,Mon Fri\n77001,Orla Quimby,K,,\n`
  const { tried } = await sent('try', file)
  expect(tried!.counts).toMatchObject({ added: 1, moved: 1, refused: 0 })
  expect(tried!.missing.map((m) => m.id)).toContain(b!.id)
  expect(tried!.notes[0]).toMatch(/Nobody Known, who teaches D in the file, is not among the course’s people/)
  expect((await roll()).students).toEqual(before.students)

  await sent('bring in', file)
  const after = await roll()
  expect(after.students).toHaveLength(before.students.length + 1)
  expect(after.sections.find((s) => s.code === 'K')).toBeDefined()
  expect(after.sections.find((s) => s.id === section.id)!.weekdays).toEqual([1, 5])
  expect(after.students.find((s) => s.id === a!.id)!.stays.at(-1)).toEqual({ sectionId: section.id, from: FROM, to: null })
  expect(after.students.find((s) => s.id === b!.id)).toEqual(b)

  const again = await sent('try', file)
  expect(again.tried!.counts).toMatchObject({ added: 0, moved: 0, changed: 0, unchanged: 2 })
})

test('all or nothing: one refused row keeps the whole file out; the withdrawn are only those that are named', async () => {
  const before = await roll()
  const bad = await sent('bring in', 'candidate,name,section\n88001,Good Row,A\n88002,,A\n')
  expect(bad.problem).toMatch(/1 rows are refused, so nothing was brought in/)
  expect((await roll()).students).toEqual(before.students)

  const [one, other] = before.students.filter((s) => s.stays.at(-1)!.to === null)
  const code = before.sections.find((s) => s.id === one!.stays.at(-1)!.sectionId)!.code
  const row = `candidate,name,section\n${one!.candidate},${one!.name},${code}\n`
  const refused = await sent('bring in', row, { withdraw: [one!.id] })
  expect(refused.problem).toMatch(/is in the file, or not on the roll/)
  await sent('bring in', row, { withdraw: [other!.id] })
  const after = await roll()
  expect(after.students.find((s) => s.id === other!.id)!.stays.at(-1)!.to).toBe('2026-11-23')
  expect(after.students.filter((s) => s.stays.at(-1)!.to !== null)).toHaveLength(1)
})

test('rows that are refused are left out on purpose, by their lines; what was matched by hand is known the next time', async () => {
  const file = 'Autumn list\nKürzel;Wer;Wo\n88101;Good Row;A\n88102;;A\n88103;Other Row;\n'
  const columns = { candidate: 0, name: 1, section: 2 }
  expect((await sent('try', file)).tried!.counts.refused).toBe(1)
  const { tried } = await sent('try', file, { columns, headingLine: 2 })
  expect([tried!.counts, tried!.rows.filter((r) => r.outcome === 'refused').map((r) => r.line)]).toEqual([
    { added: 1, changed: 0, moved: 0, back: 0, unchanged: 0, refused: 2 },
    [4, 5],
  ])
  // Another row than those that were seen is not left out silently.
  expect((await sent('bring in', file, { columns, headingLine: 2, leaveOut: [4] })).problem).toMatch(/^1 rows are refused/)
  await sent('bring in', file, { columns, headingLine: 2, leaveOut: [4, 5] })
  const after = await roll()
  expect(after.students.filter((s) => s.candidate.startsWith('8810')).map((s) => s.name)).toEqual(['Good Row'])
  const next = await sent('try', 'Spring list\n\nKürzel;Wer;Wo\n88104;Next Row;A\n')
  expect([next.tried!.headingLine, next.tried!.columns, next.tried!.counts.added]).toEqual([3, columns, 1])
})

test('a roll that came in is undone as a whole, and stands in the record with its undoing', async () => {
  const before = await roll()
  const [a, b] = before.students.filter((s) => s.stays.at(-1)!.to === null)
  const to = before.sections.find((s) => s.id !== a!.stays.at(-1)!.sectionId && s.code.length === 1)!
  const file = `candidate,name,section,meets\n${a!.candidate},${a!.name} Anew,${to.code},Tue\n77901,Wim Sorrel,ZZ,Mon\n`
  const { fileId } = await sent('bring in', file, { withdraw: [b!.id], name: 'week 12.csv' })
  expect((await roll()).students).toHaveLength(before.students.length + 1)
  const undo = (id: string) => lead('post', api(`/roll-files/${id}/undo`))
  const list = (await undo(fileId!).expect(200)).body as RollFileKept[]
  expect(list[0]).toMatchObject({
    name: 'week 12.csv',
    summary: '1 added, 1 moved, 1 withdrawn, 2 sections new or changed',
    by: 'Ines Valdry',
    undone: { by: 'Ines Valdry' },
  })
  const after = await roll()
  const plain = <T extends { version: number }>(rows: T[]) => rows.map(({ version: _version, ...r }) => r)
  expect(plain(after.students)).toEqual(plain(before.students))
  expect(plain(after.sections)).toEqual(plain(before.sections))
  expect((await undo(fileId!).expect(409)).body).toMatchObject({ detail: 'It has been undone already.' })
  await marker('get', api('/roll-files')).expect(403)
})

test('what was changed since is not written over: nothing is undone, and it is named', async () => {
  const { fileId } = await sent('bring in', 'candidate,name,section\n77902,Wim Sorrel,A\n', { name: 'late.csv' })
  const wim = (await roll()).students.find((s) => s.candidate === '77902')!
  await lead('patch', api(`/students/${wim.id}`), { version: wim.version, name: 'Wim Sorrell' }).expect(200)
  const { body } = await lead('post', api(`/roll-files/${fileId!}/undo`)).expect(409)
  expect(body).toMatchObject({
    detail: expect.stringMatching(/^Changed since the file came in: Wim Sorrell\. Nothing was undone/) as string,
  })
})

test('ticked as having left on the very first day, it is said whose day is refused and why', async () => {
  const before = await roll()
  const [one, other] = before.students.filter((s) => s.stays.length === 1 && s.stays[0]!.to === null)
  const code = before.sections.find((s) => s.id === one!.stays[0]!.sectionId)!.code
  const row = `candidate,name,section\n${one!.candidate},${one!.name},${code}\n`
  const { problem } = await sent('bring in', row, { withdraw: [other!.id], from: other!.stays[0]!.from })
  expect(problem).toBe(
    `${other!.name}, ticked as having left: Give a day after ${shownDay(other!.stays[0]!.from)}: the student would never have been here. Nothing was brought in.`,
  )
  expect((await roll()).students).toEqual(before.students)
})

test('a file that is none is refused with a sentence', async () => {
  expect((await sent('try', '%PDF-1.4')).problem).toMatch(/This is a PDF/)
  expect((await sent('try', Buffer.from([0x50, 0x4b, 3, 4, 1]))).problem).toMatch(/breaks off before its end/)
})

test.each(['csv', 'xlsx', 'zip'] as const)('taken out as %s and brought in again, nothing changes', async (ending) => {
  const answer = await takenOut(lead, `/roll.${ending}`)
  expect(answer.headers['content-disposition']).toMatch(new RegExp(`roll CFS 214 autumn 2026\\.${ending}`))
  const { tried } = await sent('try', answer.body)
  const { unchanged, ...others } = tried!.counts
  expect(others).toEqual({ added: 0, changed: 0, moved: 0, back: 0, refused: 0 })
  expect(unchanged).toBe((await roll()).students.length)
  expect([tried!.sections, tried!.missing]).toEqual([[], []])
})

test('a student moves with marks and readings; what applies follows the due days; back again, the grade is the same', async () => {
  const before = await table()
  const person = before.students.find((s) => s.sectionId === `${COURSE}-section-1`)!
  const own = (await roll()).students.find((s) => s.id === person.id)!
  const final = (t: TableLike) => gradeCourse(toCourse(workingsOf(t))).students.find((s) => s.studentId === person.id)!.final
  const there = `${COURSE}-section-3`
  const stays = [
    { sectionId: own.stays[0]!.sectionId, from: own.stays[0]!.from, to: '2026-10-11' },
    { sectionId: there, from: '2026-10-12', to: null },
  ]
  const path = api(`/students/${person.id}`)
  const moved = await lead('patch', path, { version: own.version, stays }).expect(200)
  const after = await table()
  expect(after.students.find((s) => s.id === person.id)!.sectionId).toBe(there)
  expect(after.stays[person.id]).toEqual(stays)
  expect(final(after)).toBe(final(before))
  const stale = await lead('patch', path, { version: own.version, name: 'Too Late' }).expect(409)
  expect((stale.body as { current: { stays: unknown } }).current.stays).toEqual(stays)
  const bad = await lead('patch', path, { version: (moved.body as { version: number }).version, stays: [stays[1], stays[1]] }).expect(422)
  expect((bad.body as { detail: string }).detail).toMatch(/while the one before it lasts until now/)
  await lead('patch', path, { version: (moved.body as { version: number }).version, stays: own.stays }).expect(200)
  expect((await table()).stays[person.id]).toBeUndefined()
})

test('doubled numbers and codes, strangers as teachers: each gets a sentence', async () => {
  const { students, sections } = await roll()
  const detail = async (test: ReturnType<Client>) => ((await test.expect(422)).body as { detail: string }).detail
  const body = { name: 'Orla', candidate: students[0]!.candidate, externalId: null, sectionId: sections[0]!.id, from: FROM }
  expect(await detail(lead('post', api('/students'), body))).toMatch(/The number .* is .*’s: give another one/)
  expect(await detail(lead('post', api('/sections'), { code: 'a', name: 'Again', teacherId: null, weekdays: [], firstDay: null }))).toMatch(
    /The code a is Alidade’s/,
  )
  const edit = lead('patch', api(`/sections/${sections[0]!.id}`), { version: sections[0]!.version, teacherId: 'student' })
  expect(await detail(edit)).toMatch(/no part in the course/)
})

test('what was added by mistake goes again; who has work, and a section somebody was in, stay', async () => {
  const body = { code: 'Z', name: 'Zenith', teacherId: null, weekdays: [1], firstDay: null }
  const section = (await lead('post', api('/sections'), body).expect(200)).body as { id: string }
  const person = { name: 'Orla Quimby', candidate: '66001', externalId: null, sectionId: section.id, from: FROM }
  const student = (await lead('post', api('/students'), person).expect(200)).body as { id: string }
  expect(((await lead('delete', api(`/sections/${section.id}`)).expect(409)).body as { detail: string }).detail).toMatch(
    /1 students are or were in Zenith/,
  )
  await lead('delete', api(`/students/${student.id}`)).expect(204)
  await lead('delete', api(`/sections/${section.id}`)).expect(204)
  const { students } = await roll()
  expect(((await lead('delete', api(`/students/${students[0]!.id}`)).expect(409)).body as { detail: string }).detail).toMatch(
    /withdraw them instead/,
  )
})

test('where markers may not see names, no answer, file or error holds one', async () => {
  const { students } = await roll()
  const names = new Set(students.map((s) => s.name))
  await lead('put', api('/names-to-markers'), { names: false }).expect(200)
  const sheet = sheetIn((await marker('get', api('/sheet')).expect(200)).body)
  expect(sheet.students.length).toBeGreaterThan(10)
  expect(sheet.students.every((s) => s.name === s.candidate)).toBe(true)
  expect(sheet.students.map((s) => s.candidate)).toEqual(sheet.students.map((s) => s.candidate).sort())
  const gets = Object.values(routes).filter((r) => r.method === 'GET' && Array.isArray(r.access) && r.path !== routes.events.path)
  const section = sheet.sections[0]!.id
  for (const r of gets) {
    const path = r.path.replace(':courseId', COURSE).replace(':sectionId', section).replace(':personId', 'marker-6').replace(/:\w+/g, '1')
    const { text = '', body } = await marker('get', path)
    const said = text + JSON.stringify(body)
    for (const name of names) expect(said).not.toContain(name)
  }
  const tried = await marker('post', api('/marks-file/try'), {
    text: `candidate,Stereo heights\n${sheet.students[0]!.candidate},99\n1,5\n`,
  })
  const refused = await marker('patch', api('/sheet'), {
    cells: [{ studentId: sheet.students[0]!.id, assessmentId: `${COURSE}-stereo`, version: 99, mark: 1, status: 'in', daysLate: 0 }],
  })
  for (const name of names) expect(JSON.stringify([tried.body, refused.body])).not.toContain(name)
  await lead('put', api('/names-to-markers'), { names: true }).expect(200)
  expect(sheetIn((await marker('get', api('/sheet'))).body).students.some((s) => names.has(s.name))).toBe(true)
})
