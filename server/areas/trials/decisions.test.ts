import { gradeCourse } from '#core/grades'
import type { Adjustment } from '#core/rescale'
import { settleBy, standingRows, toCourse, workingsOf, type TableLike } from '#core/trial'
import { unpackTable, type Change, type Decision, type TableInColumns } from '#contract'
import { api, COURSE, serveDemo, type Client, type TestServer } from '../../testing/serve'

let server: TestServer
let lead: Client
beforeAll(async () => {
  server = await serveDemo()
  lead = await server.as('ines.valdry')
}, 60_000)
afterAll(() => server.close())

const table = async () => unpackTable((await lead('get', api('/table')).expect(200)).body as TableInColumns)
const adopt = async (changes: Change[]) => (await lead('post', api('/decisions'), { changes, reason: 'test' }).expect(200)).body as Decision
const withdraw = (id: string) => lead('post', api(`/decisions/${id}/withdraw`), { reason: 'test' })
const standing = (t: TableLike) => standingRows(workingsOf(t)).map((s) => s.mark)
const openMap = (t: TableLike) => {
  const w = workingsOf(t)
  return standingRows(w)
    .filter((s) => s.assessmentId === `${COURSE}-map` && s.source === 'open')
    .map((s) => s.cell)
}
const curve = (id: string): Adjustment => ({
  id,
  assessmentId: `${COURSE}-traverse`,
  outOf: 30,
  sectionIds: null,
  method: {
    kind: 'curve',
    points: [
      [0, 0],
      [15, 18.5],
      [30, 30],
    ],
  },
  on: true,
  neverLower: true,
  above: 'keep within',
  step: 0.5,
})

test('adopting settles, the effect is in the record, and withdrawing brings back exactly what was', async () => {
  const before = await table()
  const w = workingsOf(before)
  const [cell] = openMap(before)
  const scriptId = w.cells.scriptId(cell!)
  const changes = settleBy(w, [cell!], { kind: 'mean' }, 0.5)
  const decision = await adopt(changes)
  expect(decision).toMatchObject({ kind: 'reconcile', by: 'Ines Valdry', withdrawn: null })
  expect(decision.summary).toBe('1 script of Map project settled by mean')
  const after = await table()
  expect(after.agreed[scriptId]).toBe((changes[0] as Extract<Change, { kind: 'settle' }>).mark)
  const withdrawn = (await withdraw(decision.id).expect(200)).body as Decision
  expect(withdrawn.withdrawn?.reason).toBe('test')
  expect(standing(await table())).toEqual(standing(before))
  await withdraw(decision.id).expect(409)
})

test('of two decisions on one script the later holds; withdrawing it brings the earlier back', async () => {
  const t = await table()
  const [, cell] = openMap(t)
  const w = workingsOf(t)
  const scriptId = w.cells.scriptId(cell!)
  await adopt(settleBy(w, [cell!], { kind: 'lowest' }, null))
  const low = (await table()).agreed[scriptId]
  const second = await adopt(settleBy(w, [cell!], { kind: 'highest' }, null))
  expect((await table()).agreed[scriptId]).toBeGreaterThan(low!)
  const inForce = () =>
    server.db.prepare('SELECT mark FROM agreed_mark WHERE script_id = ? AND in_force = 1').all(scriptId) as { mark: number }[]
  expect(inForce()).toHaveLength(1)
  await withdraw(second.id).expect(200)
  expect((await table()).agreed[scriptId]).toBe(low)
  expect(inForce()).toEqual([{ mark: low }])
})

test('agreed marks kept in the table are those that follow from the decisions in force', async () => {
  const t = await table()
  const kept = server.db
    .prepare(
      `SELECT a.script_id AS id, a.mark FROM agreed_mark a JOIN decision d ON d.id = a.decision_id WHERE d.course_id = ? AND a.in_force = 1`,
    )
    .all(COURSE) as { id: string; mark: number }[]
  expect(Object.fromEntries(kept.map((k) => [k.id, k.mark]))).toEqual(t.agreed)
})

test('weights, adjustments and boundaries come into force together, and the grades are the core’s', async () => {
  const before = await table()
  const changes: Change[] = [
    { kind: 'weigh', componentId: `${COURSE}-c-viva`, weight: 15 },
    { kind: 'weigh', componentId: `${COURSE}-c-paper`, weight: 10 },
    { kind: 'adjust', adjustment: curve('curve-1') },
    { kind: 'bound', boundaries: before.boundaries.map((b) => (b.grade === 'Merit' ? { ...b, from: 69 } : b)) },
  ]
  const decision = await adopt(changes)
  expect(decision.kind).toBe('several')
  expect(decision.effect!.percents).toBeGreaterThan(50)
  const after = await table()
  expect(after.components.map((c) => c.weight)).toEqual([20, 25, 25, 15, 10, 5, 2])
  expect(after.boundaries[1]).toEqual({ grade: 'Merit', from: 69 })
  expect(gradeCourse(toCourse(workingsOf(after))).students.filter((s) => s.grade === 'Merit').length).toBeGreaterThan(0)
  const off = await adopt([{ kind: 'switch', adjustmentId: 'curve-1', on: false }])
  expect((await table()).adjustments).toMatchObject([{ id: 'curve-1', on: false }])
  await withdraw(off.id).expect(200)
  expect((await table()).adjustments).toMatchObject([{ on: true }])
})

test.each<[string, Change, number, RegExp]>([
  [
    'a mark that the readings do not give',
    { kind: 'settle', scriptId: `${COURSE}-map:${COURSE}-student-1`, rule: { kind: 'mean' }, step: null, mark: 1 },
    409,
    /settle it again/,
  ],
  [
    'a script without readings',
    { kind: 'settle', scriptId: `${COURSE}-pacing:${COURSE}-student-1`, rule: { kind: 'mean' }, step: null, mark: 1 },
    422,
    /no reading/,
  ],
  [
    'an own mark over the maximum',
    {
      kind: 'settle',
      scriptId: `${COURSE}-map:${COURSE}-student-1`,
      rule: { kind: 'value', mark: 140, reason: 'x' },
      step: null,
      mark: 140,
    },
    422,
    /outside 0 to 100/,
  ],
  [
    'an own mark without a reason',
    { kind: 'settle', scriptId: `${COURSE}-map:${COURSE}-student-1`, rule: { kind: 'value', mark: 40, reason: ' ' }, step: null, mark: 40 },
    422,
    /needs a reason/,
  ],
  [
    'a curve that falls',
    {
      kind: 'adjust',
      adjustment: {
        ...curve('x'),
        method: {
          kind: 'curve',
          points: [
            [0, 9],
            [30, 3],
          ],
        },
      },
    },
    422,
    /higher mark would become a lower one/,
  ],
  [
    'boundaries out of order',
    {
      kind: 'bound',
      boundaries: [
        { grade: 'A', from: 40 },
        { grade: 'B', from: 60 },
        { grade: 'C', from: 0 },
      ],
    },
    422,
    /Limits fall from the best grade/,
  ],
  [
    'boundaries as fractions',
    {
      kind: 'bound',
      boundaries: [
        { grade: 'A', from: 0.895 },
        { grade: 'B', from: 0 },
      ],
    },
    422,
    /89\.5 in place of 0\.895/,
  ],
  ['an adjustment that is not there', { kind: 'switch', adjustmentId: 'nothing', on: false }, 422, /no such adjustment/],
])('%s is refused with a sentence, and nothing changes', async (_, change, status, sentence) => {
  const before = await table()
  const answer = await lead('post', api('/decisions'), { changes: [change], reason: 'because' }).expect(status)
  expect((answer.body as { detail: string }).detail).toMatch(sentence)
  expect((await table()).version).toBe(before.version)
})

test('an open trial is kept for the person who opened it, and gone when discarded', async () => {
  const changes: Change[] = [{ kind: 'weigh', componentId: `${COURSE}-c-viva`, weight: 12 }]
  await lead('put', api('/trial'), { changes, version: 0 }).expect(200)
  expect((await lead('get', api('/trial')).expect(200)).body).toEqual({ changes, version: 1 })
  await lead('put', api('/trial'), { changes: [], version: 1 }).expect(200)
  expect((await lead('get', api('/trial')).expect(200)).body).toEqual({ changes: [], version: 2 })
})

test('weights are not edited past a trial once there are marks; titles are', async () => {
  const { components } = await table()
  const path = api(`/components/${components[0]!.id}`)
  const refused = await lead('patch', path, { version: components[0]!.version, weight: 30 }).expect(409)
  expect((refused.body as { detail: string }).detail).toMatch(/tried first/)
  const done = await lead('patch', path, { version: components[0]!.version, title: 'Field books' }).expect(200)
  expect(done.body).toMatchObject({ title: 'Field books' })
  const stale = await lead('patch', path, { version: components[0]!.version, title: 'Books' }).expect(409)
  expect(stale.body).toMatchObject({ current: { title: 'Field books' } })
})

test('decisions and readings cannot be deleted or rewritten behind the program’s back', () => {
  const refuse = (sql: string, message: RegExp) => expect(() => server.db.exec(sql)).toThrow(message)
  refuse('DELETE FROM decision', /withdrawn, never deleted/)
  refuse("UPDATE decision SET reason = 'other'", /never rewritten/)
  refuse('DELETE FROM reading', /never deleted/)
  refuse('DELETE FROM script', /never deleted/)
  refuse("UPDATE reading SET marker_id = 'lead'", /belongs to one marker/)
  refuse("UPDATE script SET status = 'lost'", /CHECK/)
  refuse("INSERT INTO script (id, student_id, assessment_id) SELECT 'twice', student_id, assessment_id FROM script LIMIT 1", /UNIQUE/)
})

test('two windows of one lead: the second is told, sent the trial as it is, and nothing of the first is lost', async () => {
  const weigh = (weight: number): Change => ({ kind: 'weigh', componentId: `${COURSE}-c-viva`, weight })
  const keep = (changes: Change[], version: number) => lead('put', api('/trial'), { changes, version })
  const { version } = (await lead('get', api('/trial')).expect(200)).body as { version: number }
  const first = (await keep([weigh(12)], version).expect(200)).body as { version: number }
  // Sent again because the answer was lost.
  expect((await keep([weigh(12)], version).expect(200)).body).toEqual(first)
  const second = await keep([weigh(15)], version).expect(409)
  expect(second.body).toMatchObject({
    detail: 'You changed the trial in another window.',
    current: { changes: [weigh(12)], version: first.version },
  })
  const adopting = { changes: [weigh(15)], reason: 'From the second window', trialVersion: version }
  await lead('post', api('/decisions'), adopting).expect(409)
  expect((await lead('get', api('/trial')).expect(200)).body).toEqual({ changes: [weigh(12)], version: first.version })
  await keep([], first.version).expect(200)
})

test('a decision without a reason is refused, and so is taking one back', async () => {
  const changes: Change[] = [{ kind: 'weigh', componentId: `${COURSE}-c-viva`, weight: 11 }]
  for (const reason of ['', '  ']) await lead('post', api('/decisions'), { changes, reason }).expect(422)
  const { id } = await adopt(changes)
  await lead('post', api(`/decisions/${id}/withdraw`), { reason: '' }).expect(422)
  await lead('post', api(`/decisions/${id}/withdraw`), { reason: 'tried' }).expect(200)
})
