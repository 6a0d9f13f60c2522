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
