import { USUAL_USE, type DeskScript, type Library, type PileScript, type Plan } from '#contract'
import { SIGN_INS } from '../../testing/markers'
import { demoServer, type Client } from '../../testing/serve'

const COURSE = 'cfs118-2026'
const SKETCH = `${COURSE}-sketch`
const api = (path: string) => `/api/courses/${COURSE}${path}`

const { server, lead } = demoServer()
let first: Client
beforeAll(async () => {
  first = await server.as(SIGN_INS[0])
}, 60_000)

const script = async (deskId: string) => (await first('get', api(`/assessments/${SKETCH}/pile/${deskId}`)).expect(200)).body as DeskScript

test('with points hidden none is sent by desk, library, files or exemplars, and what is judged by place is points', async () => {
  const { version, standardId } = ((await lead('get', api('/plan'))).body as Plan).assessments.find((a) => a.id === SKETCH)!
  await lead('patch', api(`/assessments/${SKETCH}`), { version, use: { ...USUAL_USE, hidePoints: true } }).expect(200)
  const pile = (await first('get', api(`/assessments/${SKETCH}/pile`)).expect(200)).body as PileScript[]
  const deskId = pile.find((s) => s.state === 'untouched')!.studentId
  const seen = await script(deskId)
  const body = seen.standard!.body as { criteria: { id: string; levels: { points: number }[] }[] }
  for (const c of body.criteria) expect(c.levels.map((l) => l.points)).toEqual(c.levels.map((_, i) => i))
  const picks = Object.fromEntries(body.criteria.map((c) => [c.id, c.levels.length - 1]))
  await first('put', api(`/assessments/${SKETCH}/pile/${deskId}/reading`), {
    version: seen.own.version,
    state: 'handed in',
    gapMeant: false,
    afterSeeing: false,
    judged: { picks, judgement: null, mark: null },
    comment: '',
    criterionComments: {},
    notes: '',
  }).expect(200)
  expect((await script(deskId)).own.judged.picks).toEqual(picks)
  const stored = server.db
    .prepare(
      `SELECT picks FROM reading WHERE marker_id = 'marker-1'
       AND script_id = ? || ':' || coalesce((SELECT student_id FROM blind_script WHERE id = ?), ?)`,
    )
    .pluck()
    .get(SKETCH, deskId, deskId) as string
  expect(Object.values(JSON.parse(stored) as object)).toContain(10)
  const library = (await first('get', api('/library')).expect(200)).body as Library
  const entry = library.rubrics.find((r) => r.id === standardId)!
  expect(entry.hides).toEqual({ points: true, words: false })
  expect(entry.criteria.flatMap((c) => c.levels.map((l) => l.points))).toEqual(entry.criteria.flatMap((c) => c.levels.map((_, i) => i)))
  for (const file of ['table.csv', 'table.xlsx', 'case.json', 'versions'])
    expect([file, (await first('get', api(`/library/${standardId!}/${file}`))).status]).toEqual([file, 403])
  expect(((await lead('get', api('/library')).expect(200)).body as Library).rubrics.find((r) => r.id === standardId)!.hides).toBeUndefined()
})

test('nor are they read, copied or attached through another course that the marker leads', async () => {
  const { standardId } = ((await lead('get', api('/plan'))).body as Plan).assessments.find((a) => a.id === SKETCH)!
  const marker = server.db.prepare('SELECT id FROM person WHERE sign_in = ?').pluck().get(SIGN_INS[0]) as string
  const other = 'cfs214-2025'
  server.db.prepare("INSERT OR REPLACE INTO course_role VALUES (?, ?, 'lead')").run(other, marker)
  const there = (path: string) => `/api/courses/${other}${path}`
  for (const file of ['table.csv', 'table.xlsx', 'case.json', 'package.zip', 'versions'])
    expect([file, (await first('get', there(`/library/${standardId!}/${file}`))).status]).toEqual([file, 403])
  const listed = ((await first('get', there('/library')).expect(200)).body as Library).rubrics.find((r) => r.id === standardId)!
  expect(listed.hides).toEqual({ points: true, words: false })
  await first('post', there(`/library/${standardId!}/copies`)).expect(403)
  const { assessments } = (await first('get', there('/plan')).expect(200)).body as Plan
  const free = assessments.find((a) => a.standardId !== standardId)!
  server.db
    .prepare("UPDATE issue SET reopened_by = 'lead', reopened_at = '2026-01-01T00:00:00.000Z', reopened_reason = 'r' WHERE course_id = ?")
    .run(other)
  const put = await first('put', there(`/assessments/${free.id}/standard`), { version: free.version, standardId })
  expect([put.status, (put.body as { detail: string }).detail]).toEqual([
    403,
    expect.stringMatching(/^Part of .* is hidden while you mark by it/),
  ])
})
