import { unpackTable, type CellRefusal, type SheetSince, type TableInColumns, type TriedImport } from '#contract'
import { standingRows, workingsOf } from '#core/trial'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'
import { sheetIn } from '../../testing/sheet-of'

const { server, lead } = demoServer()
let marker: Client
let rune: string
const stereo = `${COURSE}-stereo`
/** A student of Octant, whose marks have not come in. */
let studentId: string
let candidate: string
beforeAll(async () => {
  marker = await server.as('rune.daal')
  rune = server.db.prepare("SELECT id FROM person WHERE sign_in = 'rune.daal'").pluck().get() as string
  const found = server.db
    .prepare(
      `SELECT s.id, s.candidate FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL
       WHERE e.section_id = ? AND NOT EXISTS (SELECT 1 FROM script x WHERE x.student_id = s.id AND x.assessment_id = ? AND x.entered IS NOT NULL)`,
    )
    .get(`${COURSE}-section-6`, stereo) as { id: string; candidate: string }
  ;[studentId, candidate] = [found.id, found.candidate]
}, 60_000)

const allot = (markerId: string) =>
  server.db
    .prepare(
      "INSERT INTO allotment (assessment_id, student_id, marker_id, place, by_id, at) VALUES (?, ?, ?, 1, ?, '2026-11-20T09:00:00.000Z')",
    )
    .run(stereo, studentId, markerId, 'marker-1')
const version = () =>
  (
    server.db.prepare('SELECT version FROM script WHERE assessment_id = ? AND student_id = ?').get(stereo, studentId) as
      { version: number } | undefined
  )?.version ?? 0
const type = async (mark: number | null, status = 'in') =>
  (
    (
      await lead('patch', api('/sheet'), {
        cells: [{ studentId, assessmentId: stereo, version: version(), mark, status, daysLate: 0 }],
      }).expect(200)
    ).body as { refused: CellRefusal[] }
  ).refused.map((r) => [r.kind, r.message])
const source = async () => {
  const table = unpackTable((await lead('get', api('/table')).expect(200)).body as TableInColumns)
  return standingRows(workingsOf(table)).find((s) => s.assessmentId === stereo && s.studentId === studentId)!
}

test('what is written while a sheet is put together is in it, or comes with what was written since', async () => {
  const own = (c: { studentId: string; assessmentId: string }) => c.studentId === studentId && c.assessmentId === stereo
  for (const mark of [3, 4, 5, 6]) {
    const [answer] = await Promise.all([lead('get', api('/sheet')).expect(200), type(mark)])
    const sheet = sheetIn(answer.body)
    const since = (await lead('get', api(`/sheet/since/${sheet.version}`)).expect(200)).body as SheetSince
    expect((since.cells!.find(own) ?? sheet.cells.find(own))?.mark).toBe(mark)
  }
})

test('a mark typed before its reading waits beside it, is never the mark unasked, and is in the queue at Reconcile', async () => {
  expect(await type(9)).toEqual([])
  allot(rune)
  const body = {
    judged: { picks: {}, judgement: null, mark: 13 },
    comment: '',
    criterionComments: {},
    notes: '',
    version: 0,
    state: 'handed in',
    gapMeant: false,
    afterSeeing: false,
  }
  await marker('put', api(`/assessments/${stereo}/pile/${studentId}/reading`), body).expect(200)
  expect(await source()).toMatchObject({ source: 'clash', mark: null })
  const settle = { kind: 'settle', scriptId: `${stereo}:${studentId}`, rule: { kind: 'first' }, step: null, mark: 13 }
  await lead('post', api('/decisions'), { changes: [settle], reason: 'The reading has seen the work' }).expect(200)
  expect(await source()).toMatchObject({ source: 'agreed', mark: 13 })
})

describe('where a script is shared out', () => {
  beforeAll(() => {
    const other = server.db
      .prepare(
        `SELECT s.id, s.candidate FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL WHERE e.section_id = ? AND s.id <> ?
         AND NOT EXISTS (SELECT 1 FROM script x WHERE x.student_id = s.id AND x.assessment_id = ? AND x.status <> 'in')`,
      )
      .get(`${COURSE}-section-6`, studentId, stereo) as { id: string; candidate: string }
    ;[studentId, candidate] = [other.id, other.candidate]
    allot('marker-1')
    allot('marker-2')
  })

  test('a mark is not typed, with who reads it said; a status still is', async () => {
    const names = server.db.prepare("SELECT name FROM person WHERE id IN ('marker-1', 'marker-2') ORDER BY name").pluck().all() as string[]
    expect(await type(9)).toEqual([['readings', `${names.join(' and ')} read this script: its mark comes from what they hand in.`]])
    expect(await type(null, 'held')).toEqual([])
    expect(await type(null)).toEqual([])
  })

  test('nor is it brought in from a file, and the row says so', async () => {
    const text = `candidate,Stereo heights\n${candidate},9\n`
    const tried = (await lead('post', api('/marks-file/try'), { text }).expect(200)).body as TriedImport
    expect(tried.rows.map((r) => [r.outcome, r.reason])).toEqual([
      ['refused', expect.stringMatching(/ read this script: its mark comes from what they hand in\.$/)],
    ])
  })
})
