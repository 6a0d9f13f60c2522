import type { CourseTable } from '#contract'
import { COURSE, serveDemo, type TestServer } from '../../testing/serve'
import { planLoader } from './load-plan'
import { courseWrites } from './course-writes'
import { tableLoader } from './load-table'

let server: TestServer
beforeAll(async () => {
  server = await serveDemo()
}, 60_000)
afterAll(() => server.close())

type Loaded = ReturnType<ReturnType<typeof tableLoader>['load']>
/** Scripts and readings in words, whatever their places; readings of a script stay in their order. */
const inWords = ({ scripts: s, readings: r, students, assessments, markers, version }: Loaded) => ({
  version,
  scripts: s.id
    .map((id, i) =>
      [id, students[s.student[i]!]!.id, assessments[s.assessment[i]!]!.id, s.status[i], s.daysLate[i], s.entered[i], s.version[i]].join(
        ' ',
      ),
    )
    .sort(),
  readings: readingsByScript({ scripts: s, readings: r, markers }),
})
const readingsByScript = ({ scripts, readings, markers }: Pick<CourseTable, 'scripts' | 'readings' | 'markers'>) => {
  const byScript: Record<string, string[]> = {}
  readings.script.forEach((at, i) => (byScript[scripts.id[at]!] ??= []).push(`${markers[readings.marker[i]!]!.id} ${readings.mark[i]}`))
  return byScript
}

test('what is taken over after a reading is what would be read anew', () => {
  const { db } = server
  const plans = planLoader(db)
  const tables = tableLoader(db, plans)
  const raise = () => db.prepare('UPDATE course SET version = version + 1 WHERE id = ?').run(COURSE)
  const fresh = () => inWords(tableLoader(db).load(COURSE))
  db.prepare("INSERT INTO student (id, course_id, name, candidate) VALUES ('newcomer', ?, 'Ilse Marrow', '9999')").run(COURSE)
  db.prepare("INSERT INTO enrolment (student_id, section_id, from_day) VALUES ('newcomer', ?, '2026-09-07')").run(`${COURSE}-section-1`)
  const before = tables.load(COURSE)
  const assessmentId = `${COURSE}-map`
  const { id: studentId } = before.students[3]!
  const scriptId = `${assessmentId}:${studentId}`
  const key = { studentId, assessmentId }
  const take = () => {
    raise()
    tables.patchReadings(COURSE, [key])
  }

  db.prepare(
    "UPDATE reading SET mark = 12.5, handed_in_at = '2027-01-01T00:00:00.000Z' WHERE id = (SELECT id FROM reading WHERE script_id = ? LIMIT 1)",
  ).run(scriptId)
  take()
  expect(inWords(tables.load(COURSE))).toEqual(fresh())
  expect(fresh().readings[scriptId]!.at(-1)).toMatch(/ 12.5$/)

  db.prepare("UPDATE reading SET state = 'draft' WHERE script_id = ?").run(scriptId)
  take()
  expect(inWords(tables.load(COURSE))).toEqual(fresh())
  expect(fresh().readings[scriptId]).toBeUndefined()

  // A script of which nothing was recorded, and its first reading.
  const none = { studentId: 'newcomer', assessmentId }
  expect(tables.placeOf(COURSE, none)).toBe(-1)
  const newId = `${none.assessmentId}:${none.studentId}`
  db.prepare("INSERT INTO script (id, student_id, assessment_id, status) VALUES (?, ?, ?, 'in')").run(
    newId,
    none.studentId,
    none.assessmentId,
  )
  db.prepare(
    "INSERT INTO reading (id, script_id, marker_id, mark, state, handed_in_at) VALUES ('new', ?, 'marker-2', 3, 'handed in', '2026-11-25T00:00:00.000Z')",
  ).run(newId)
  raise()
  tables.patchReadings(COURSE, [none])
  expect(tables.placeOf(COURSE, none)).toBe(before.scripts.id.indexOf(newId))
  expect(inWords(tables.load(COURSE))).toEqual(fresh())
})

test('a reading by somebody who was no marker before has everything read anew', () => {
  const { db } = server
  const tables = tableLoader(db)
  const { students } = tables.load(COURSE)
  const key = { studentId: students[5]!.id, assessmentId: `${COURSE}-map` }
  db.prepare(
    "INSERT INTO reading (id, script_id, marker_id, mark, state, handed_in_at) VALUES ('lead’s', ?, (SELECT id FROM person WHERE sign_in = 'ines.valdry'), 50, 'handed in', '2026-11-25T00:00:00.000Z')",
  ).run(`${key.assessmentId}:${key.studentId}`)
  db.prepare('UPDATE course SET version = version + 1 WHERE id = ?').run(COURSE)
  tables.patchReadings(COURSE, [key])
  expect(tables.load(COURSE).markers.map((m) => m.name)).toContain('Ines Valdry')
})

test('read in turns it is what it is read in one go, whatever is written in between', async () => {
  const { db } = server
  const plans = planLoader(db)
  const tables = tableLoader(db, plans)
  const read = tables.loadInTurns(COURSE)
  db.prepare('UPDATE script SET entered = 1, version = version + 1 WHERE assessment_id = ?').run(`${COURSE}-pacing`)
  db.prepare('UPDATE course SET version = version + 1 WHERE id = ?').run(COURSE)
  expect(inWords(await read)).toEqual(inWords(tableLoader(db).load(COURSE)))
  expect(await tables.loadInTurns(COURSE)).toBe(tables.load(COURSE))
})

test('whoever asks while a course is being read waits for that reading, and no second one is begun', async () => {
  const tables = tableLoader(server.db)
  const [first, second] = await Promise.all([tables.loadInTurns(COURSE), tables.loadInTurns(COURSE)])
  expect(second).toBe(first)
})

test('a write beside the marks leaves them as they were read, and takes over what was decided', () => {
  const { db } = server
  const tables = tableLoader(db)
  const writes = courseWrites(db, tables.keepMarks)
  const before = tables.load(COURSE)
  writes.writeBesideOpen(COURSE, () =>
    db.prepare('UPDATE course SET boundaries = json_replace(boundaries, ?, 69.5) WHERE id = ?').run('$[1].from', COURSE),
  )
  const after = tables.load(COURSE)
  expect(after.scripts).toBe(before.scripts)
  expect([after.version, after.boundaries[1]!.from]).toEqual([before.version + 1, 69.5])
  expect(inWords(after)).toEqual(inWords(tableLoader(db).load(COURSE)))
  writes.writeBeside(COURSE, () => db.prepare('UPDATE course SET signers = ? WHERE id = ?').run('["lead"]', COURSE))
  expect(tables.load(COURSE).scripts).toBe(before.scripts)
  expect(writes.since(COURSE, before.version)).toEqual({ cells: [], plan: true })
})
