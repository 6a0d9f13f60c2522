import { strToU8, zipSync } from 'fflate'
import { unpackRoll, type RollInColumns } from '#contract'
import { makeNameless } from '../keeping/nameless'
import { rollFiles } from '../../testing/roll-files'
import { COURSE, api, demoServer } from '../../testing/serve'
import { tablesIn, takenOut } from '../../testing/taken-out'

const { server, lead } = demoServer()

const sent = (...of: Parameters<ReturnType<typeof rollFiles>>) => rollFiles(lead)(...of)
const roll = async () => unpackRoll((await lead('get', api('/roll')).expect(200)).body as RollInColumns)
const csv = (rows: string[][]) => strToU8(rows.map((r) => r.join(',')).join('\r\n'))
const zipped = (files: Record<string, string[][]>) =>
  zipSync(Object.fromEntries(Object.entries(files).map(([name, rows]) => [name, csv(rows)])))
const taken = async (path: string) => tablesIn((await takenOut(lead, path)).body)

const SCHOOL = {
  'courses.csv': [
    ['sourcedId', 'title', 'courseCode'],
    ['k1', 'Field Mapping', 'CFS 214'],
    ['k2', 'Tides', 'CFS 301'],
  ],
  'classes.csv': [
    ['sourcedId', 'title', 'classCode', 'courseSourcedId'],
    ['class-1', 'Trig point', 'TP', 'k1'],
    ['class-2', 'Harbour', 'HB', 'k2'],
  ],
  'users.csv': [
    ['sourcedId', 'givenName', 'middleName', 'familyName', 'identifier'],
    ['pupil-1', 'Maria Luz', 'de', 'Castellane Roe', '88001'],
    ['pupil-2', 'Ola', '', 'Quist', '88002'],
    ['teacher-1', 'Rune', '', 'Daal', ''],
  ],
  'enrollments.csv': [
    ['sourcedId', 'classSourcedId', 'userSourcedId', 'role', 'beginDate', 'endDate'],
    ['e1', 'class-1', 'pupil-1', 'student', '', ''],
    ['e2', 'class-2', 'pupil-2', 'student', '', ''],
    ['e3', 'class-1', 'teacher-1', 'teacher', '', ''],
  ],
}
const school = zipped(SCHOOL)

test('of a whole school the classes of this course are read, and others only if they are chosen', async () => {
  const { tried } = await sent('try', school)
  expect(tried!.roster!.classes.map((c) => [c.sourceId, c.chosen])).toEqual([
    ['class-1', true],
    ['class-2', false],
  ])
  expect(tried!.roster).toMatchObject({ delta: false, left: 1, learnt: 3 })
  expect([tried!.counts.added, tried!.missing]).toEqual([1, []])
  const chosen = await sent('try', school, { classes: ['class-2'] })
  expect(chosen.tried!.rows.map((r) => r.name)).toEqual(['Ola Quist'])
})

test('ids of classes and who teaches, and the parts of names, are those of the roster in every file that goes out', async () => {
  const { fileId } = await sent('bring in', school)
  expect(fileId).toBeTruthy()
  const out = await taken('/roll.zip')
  expect(out('classes.csv').find((c) => c.title === 'Trig point')).toMatchObject({ sourcedId: 'class-1', classCode: 'TP' })
  const user = out('users.csv').find((u) => u.identifier === '88001')
  expect(user).toMatchObject({ sourcedId: 'pupil-1', givenName: 'Maria Luz', middleName: 'de', familyName: 'Castellane Roe' })
  expect(
    out('enrollments.csv')
      .filter((e) => e.classSourcedId === 'class-1')
      .map((e) => [e.userSourcedId, e.role]),
  ).toEqual([
    ['teacher-1', 'teacher'],
    ['pupil-1', 'student'],
  ])
  // Every other teacher has the one id by which no roster has named them.
  expect(out('users.csv').filter((u) => u.sourcedId!.startsWith('person-')).length).toBeGreaterThan(3)
  const items = (await taken('/marks-results.zip'))('lineItems.csv')
  expect(items.every((i) => i.classSourcedId !== '' && !i.classSourcedId!.includes('undefined'))).toBe(true)

  // The same once more teaches nothing; by the id, also where the class has another code and title.
  expect((await sent('try', school)).tried).toMatchObject({ counts: { unchanged: 1, added: 0 }, roster: { learnt: 0 } })
  const other = {
    ...SCHOOL,
    'classes.csv': SCHOOL['classes.csv'].map((c) => (c[0] === 'class-1' ? ['class-1', 'Trig point', 'TP-2', 'k1'] : c)),
  }
  expect((await sent('try', zipped(other))).tried!.sections).toEqual([])
})

test('enrolments alone move and withdraw who is here', async () => {
  const delta = {
    'manifest.csv': [
      ['propertyName', 'value'],
      ['file.enrollments', 'delta'],
    ],
    'enrollments.csv': [
      ['sourcedId', 'status', 'classSourcedId', 'userSourcedId', 'role', 'beginDate', 'endDate'],
      ['e1', 'tobedeleted', 'class-1', 'pupil-1', 'student', '', ''],
    ],
  }
  const { tried } = await sent('bring in', zipped(delta), { from: '2026-12-01' })
  expect([tried!.counts.moved, tried!.missing, tried!.roster!.delta]).toEqual([1, [], true])
  const { students } = await roll()
  expect(students.find((s) => s.candidate === '88001')!.stays.at(-1)!.to).toBe('2026-11-30')
})

test('undone, a class is known by its id no longer; nameless, no part of a name stays', async () => {
  const count = (table: string) => server.db.prepare<[], number>(`SELECT count(*) FROM ${table}`).pluck().get()!
  expect([count('roster_class'), count('roster_name')]).toEqual([1, 1])
  const { fileId } = await sent('bring in', school, { classes: ['class-2'] })
  expect([count('roster_class'), count('roster_name')]).toEqual([2, 2])
  await lead('post', api(`/roll-files/${fileId}/undo`)).expect(200)
  expect([count('roster_class'), count('roster_name')]).toEqual([1, 1])
  makeNameless({ file: server.db.name, courseId: COURSE, at: '2027-01-10T10:00:00.000Z', reasons: [] })
  expect(count('roster_name')).toBe(0)
})
