import { createHash } from 'node:crypto'
import fc from 'fast-check'
import { parse } from 'csv-parse/sync'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { type Assessment, type LibraryFile, type Plan, type TriedAssessment, type TriedImport } from '#contract'
import { COURSE, api, demoServer } from '../../testing/serve'
import { takenOut } from '../../testing/taken-out'
import { sheetIn } from '../../testing/sheet-of'

const { server, lead } = demoServer()

const MAP = `${COURSE}-map`
type Files = Record<string, Uint8Array>
const packageOf = async (id: string): Promise<Files> =>
  unzipSync(new Uint8Array((await takenOut(lead, api(`/assessments/${id}/package.zip`))).body))
const base64 = (files: Files) => Buffer.from(zipSync(files)).toString('base64')
const rows = (files: Files, name: string) => parse(strFromU8(files[`data/${name}.csv`]!), { columns: true }) as Record<string, string>[]
const plan = async () => (await lead('get', api('/plan')).expect(200)).body as Plan
const tried = async (files: Files) =>
  (await lead('post', api('/assessment-packages/try'), { file: base64(files) }).expect(200)).body as TriedAssessment
const refused = async (files: Files) =>
  ((await lead('post', api('/assessment-packages/try'), { file: base64(files) }).expect(422)).body as { detail: string }).detail
const bringIn = async (files: Files, componentId: string) =>
  ((await lead('post', api('/assessment-packages'), { file: base64(files), componentId }).expect(200)).body as { assessment: Assessment })
    .assessment

interface Described {
  resources: { name: string; path: string; bytes: number; hash: string; schema?: { fields: { name: string; type: string }[] } }[]
}

test('each assessment is a package whose description fits its files; students are in it by their numbers alone', async () => {
  const names = server.db.prepare<[], string>('SELECT name FROM student').pluck().all()
  for (const { id, title } of (await plan()).assessments) {
    const files = await packageOf(id)
    const { resources } = JSON.parse(strFromU8(files['datapackage.json']!)) as Described
    expect(Object.keys(files).sort()).toEqual([...resources.map((r) => r.path), 'datapackage.json'].sort())
    expect(new Set(resources.map((r) => r.name)).size).toBe(resources.length)
    for (const { path, bytes, hash, schema } of resources) {
      expect([bytes, hash]).toEqual([files[path]!.length, `sha256:${createHash('sha256').update(files[path]!).digest('hex')}`])
      if (schema) expect((parse(strFromU8(files[path]!)) as string[][])[0]).toEqual(schema.fields.map((f) => f.name))
    }
    expect(rows(files, 'assessment').map((r) => r.title)).toEqual([title])
    const text = Object.entries(files).flatMap(([path, bytes]) => (path.startsWith('data/') ? [strFromU8(bytes)] : []))
    expect(names.filter((n) => text.some((t) => t.includes(n)))).toEqual([])
  }
})

test('marks, readings and points are those of the database', async () => {
  const files = await packageOf(MAP)
  const readings = server.db
    .prepare(
      `SELECT t.candidate, p.name AS marker, r.mark FROM reading r JOIN script s ON s.id = r.script_id JOIN student t ON t.id = s.student_id
       JOIN person p ON p.id = r.marker_id WHERE s.assessment_id = ? AND r.state = 'handed in' ORDER BY t.candidate, r.handed_in_at, r.rowid`,
    )
    .all(MAP) as { candidate: string; marker: string; mark: number }[]
  expect(rows(files, 'readings').map((r) => [r.candidate, r.marker, Number(r.mark)])).toEqual(
    readings.map((r) => [r.candidate, r.marker, r.mark]),
  )
  const [first] = readings
  const picks = server.db
    .prepare<[string, string, string], string>(
      `SELECT r.picks FROM reading r JOIN script s ON s.id = r.script_id JOIN student t ON t.id = s.student_id JOIN person p ON p.id = r.marker_id
       WHERE s.assessment_id = ? AND t.candidate = ? AND p.name = ?`,
    )
    .pluck()
    .get(MAP, first!.candidate, first!.marker)!
  const points = rows(files, 'points').filter((p) => p.candidate === first!.candidate && p.marker === first!.marker)
  expect(points.map((p) => Number(p.points)).sort()).toEqual(Object.values(JSON.parse(picks) as Record<string, number>).sort())

  const sheet = sheetIn((await lead('get', api('/sheet')).expect(200)).body)
  const numberOf = new Map(sheet.students.map((s) => [s.id, s.candidate]))
  const expected = sheet.cells
    .filter((c) => c.assessmentId === `${COURSE}-pacing` && (c.mark !== null || c.status !== 'in'))
    .map((c) => [numberOf.get(c.studentId), c.mark === null ? '' : String(c.mark), c.status, String(c.daysLate)])
  const written = rows(await packageOf(`${COURSE}-pacing`), 'marks').map((m) => [m.candidate, m.mark, m.status, m['days late']])
  expect(written.sort()).toEqual(expected.sort())
})

test('brought in again it is what it was, marked by the same, without marks; its title is free and it is set for everybody', async () => {
  const before = (await plan()).assessments.find((a) => a.id === MAP)!
  const files = await packageOf(MAP)
  expect(await tried(files)).toMatchObject({
    title: 'Map project 2',
    component: 'Map project',
    outOf: 100,
    standard: { here: true },
    readings: rows(files, 'readings').length,
  })
  const made = await bringIn(files, before.componentId)
  const { id: _, title: __, version: ___, counts, use: ____, ...same } = made
  expect(before).toMatchObject(same)
  // There are marks in the course.
  expect(counts).toBe(false)
  const now = await plan()
  expect(now.placements.filter(([a]) => now.assessments[a]!.id === made.id)).toHaveLength(now.sections.length)
  const again = await packageOf(made.id)
  expect([rows(again, 'marks'), rows(again, 'readings')]).toEqual([[], []])
  const [one, other] = [rows(files, 'assessment')[0]!, rows(again, 'assessment')[0]!]
  expect(other).toEqual({ ...one, title: 'Map project 2', counts: 'false' })
  expect(strFromU8(again['standard.json']!)).toBe(strFromU8(files['standard.json']!))
})

test('what the library does not have comes along, with the outcomes that its criteria name', async () => {
  const files = await packageOf(MAP)
  const entry = strFromU8(files['standard.json']!)
  // As another installation would have made it.
  const theirs = {
    ...files,
    'standard.json': strToU8(
      entry.replace(/[0-9a-f]{8}-[0-9a-f]{4}-/g, (id) => `${id.slice(0, 7)}${id[7] === '0' ? '1' : '0'}-${id.slice(9)}`),
    ),
  }
  expect((await tried(theirs)).standard).toMatchObject({ here: false })
  const component = (await plan()).components[0]!
  const made = await bringIn(theirs, component.id)
  const { body, title } = server.db
    .prepare<[string], { body: string; title: string }>('SELECT body, title FROM standard WHERE id = ?')
    .get(made.standardId!)!
  const mine = server.db
    .prepare<[string], string>('SELECT s.body FROM assessment a JOIN standard s ON s.id = a.standard_id WHERE a.id = ?')
    .pluck()
    .get(MAP)!
  type Criteria = { criteria: { title: string; outcomeIds?: string[] }[] }
  const linked = (of: string) => (JSON.parse(of) as Criteria).criteria.map((c) => [c.title, c.outcomeIds?.length ?? 0])
  expect(linked(body)).toEqual(linked(mine))
  expect(title).toMatch(/ 2$/)
  for (const id of (JSON.parse(body) as Criteria).criteria.flatMap((c) => c.outcomeIds ?? []))
    expect(server.db.prepare('SELECT kind FROM standard WHERE id = ?').pluck().get(id)).toBe('outcome')
  // Brought a second time, it is known.
  expect((await tried(theirs)).standard).toMatchObject({ here: true })
})

test('whatever it is called and noted, it comes back as it went out', async () => {
  const id = `${COURSE}-stereo`
  const words = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 60 })
  const set = server.db.prepare(
    'UPDATE assessment SET notes = ?, pass_mark = ?, tolerance = ?, worth = ?, worth_follows = 0, droppable = ? WHERE id = ?',
  )
  const seen = server.db.prepare('UPDATE course SET version = version + 1, plan_version = plan_version + 1 WHERE id = ?')
  const { componentId } = (await plan()).assessments.find((a) => a.id === id)!
  await fc.assert(
    fc.asyncProperty(
      words,
      fc.option(fc.nat(24)),
      fc.nat(40),
      fc.integer({ min: 1, max: 4000 }),
      fc.boolean(),
      async (notes, pass, tolerance, worth, drops) => {
        set.run(notes, pass, tolerance / 8, worth / 8, Number(drops), id)
        seen.run(COURSE)
        const made = await bringIn(await packageOf(id), componentId)
        expect(made).toMatchObject({
          notes,
          passMark: pass,
          tolerance: tolerance / 8,
          worth: worth / 8,
          worthFollows: false,
          droppable: drops,
        })
      },
    ),
    { numRuns: 8 },
  )
})

test('its marks come into the sheet from the same file', async () => {
  const files = await packageOf(`${COURSE}-pacing`)
  const marks = rows(files, 'marks')
  const same = (await lead('post', api('/marks-file/try'), { file: base64(files) }).expect(200)).body as TriedImport
  expect(same.counts).toEqual({ added: 0, changed: 0, unchanged: marks.length, refused: 0 })
  const [, first] = strFromU8(files['data/marks.csv']!).split('\r\n') as [string, string]
  const one = {
    ...files,
    'data/marks.csv': strToU8(
      `candidate,assessment,mark,status,days late,remark\r\n${first.split(',')[0]},Pacing and compass,3.25,late,2,Too few paces\r\n`,
    ),
  }
  const { rows: told } = (await lead('post', api('/marks-file/try'), { file: base64(one) }).expect(200)).body as TriedImport
  expect(told.map((r) => [r.after, r.reason])).toEqual([['3.25 late 2', 'changed, with a remark']])
})

test('what is no package of an assessment is refused, and says why', async () => {
  const { 'data/assessment.csv': table, ...others } = await packageOf(MAP)
  expect(await refused(others)).toBe('There is no data/assessment.csv in this data package.')
  expect(await refused({ ...others, 'data/assessment.csv': strToU8(strFromU8(table!).replace(',100,', ',much,')) })).toMatch(
    /^data\/assessment\.csv: “much” cannot be its out of/,
  )
  expect(await refused({ 'notes.txt': strToU8('x') })).toMatch(
    /^This is an archive of other files\. What is read here: a data package \(datapackage\.json, zipped\)/,
  )
  const course = { 'datapackage.json': strToU8('{}'), 'data/course.csv': strToU8('id\r\n') }
  expect(await refused(course)).toMatch(/holds a whole course/)
  const text = { file: Buffer.from('x').toString('base64') }
  expect(((await lead('post', api('/assessment-packages/try'), text).expect(422)).body as { detail: string }).detail).toMatch(
    /^This is a table as text \(CSV\)\. What is read here: a data package/,
  )
  await lead('get', api('/assessments/none/package.zip')).expect(404)
  await (await server.as('tadesse.abara'))('get', api(`/assessments/${MAP}/package.zip`)).expect(403)
})

test('an entry of the library alone is a package too, and is known again as the same', async () => {
  const entries = server.db
    .prepare<[], { id: string; kind: string; title: string }>("SELECT id, kind, title FROM standard WHERE state <> 'retired' GROUP BY kind")
    .all()
  expect(entries.map((e) => e.kind).sort()).toEqual(['outcome', 'rubric', 'scale', 'scheme'])
  for (const { id, kind, title } of entries) {
    const { body } = await takenOut(lead, api(`/library/${id}/package.zip`))
    const file = Buffer.from(body).toString('base64')
    const read = (await lead('post', api('/library-files'), { file }).expect(200)).body as LibraryFile
    if (kind === 'outcome') expect(read.outcomes).toMatchObject([{ title, known: id }])
    else
      expect([...read.rubrics, ...read.others].map((r) => [('standard' in r ? r.standard : r).title, r.known?.same])).toEqual([
        [title, true],
      ])
  }
})
