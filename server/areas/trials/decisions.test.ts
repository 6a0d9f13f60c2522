import { gradeCourse } from '#core/grades'
import type { Adjustment, Reread } from '#core/rescale'
import { settleBy, standingRows, toCourse, workingsOf, type TableLike } from '#core/trial'
import { unpackTable, type Change, type Decision, type Problem, type TableInColumns, type TablePlan } from '#contract'
import { COURSE, api, demoServer } from '../../testing/serve'

const { server, lead } = demoServer()

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
  expect(decision.summary).toBe('1 script of Map project settled by the mean')
  const after = await table()
  expect(after.agreed[scriptId]).toBe((changes[0] as Extract<Change, { kind: 'settle' }>).mark)
  const withdrawn = (await withdraw(decision.id).expect(200)).body as Decision
  expect(withdrawn.withdrawn?.reason).toBe('test')
  expect(standing(await table())).toEqual(standing(before))
  await withdraw(decision.id).expect(409)
})

test('what is a bonus and has marks below 0 stays one, by a decision and by taking one back', async () => {
  const of = `${COURSE}-traverse`
  const { id } = await adopt([{ kind: 'assess', assessmentId: of, patch: { bonus: true } }])
  const was = server.db.prepare("SELECT id, entered FROM script WHERE assessment_id = ? AND status = 'in' LIMIT 1").get(of) as {
    id: string
    entered: number
  }
  const enter = (mark: number) => server.db.prepare('UPDATE script SET entered = ? WHERE id = ?').run(mark, was.id)
  enter(-1)
  const said = 'Traverse closure has 1 mark below 0, which only a bonus may have: change it first.'
  expect(((await withdraw(id).expect(409)).body as Problem).detail).toBe(said)
  const changes: Change[] = [{ kind: 'assess', assessmentId: of, patch: { bonus: false } }]
  expect(((await lead('post', api('/decisions'), { changes, reason: 'test' }).expect(409)).body as Problem).detail).toBe(said)
  enter(was.entered)
  await withdraw(id).expect(200)
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
  expect((await lead('get', api('/trial')).expect(200)).body).toEqual({ changes, since: [], version: 1 })
  await lead('put', api('/trial'), { changes: [], version: 1 }).expect(200)
  expect((await lead('get', api('/trial')).expect(200)).body).toEqual({ changes: [], since: [], version: 2 })
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
  expect((await lead('get', api('/trial')).expect(200)).body).toEqual({ changes: [weigh(12)], since: [], version: first.version })
  await keep([], first.version).expect(200)
})

test('a decision without a reason is refused, and so is taking one back', async () => {
  const changes: Change[] = [{ kind: 'weigh', componentId: `${COURSE}-c-viva`, weight: 11 }]
  for (const reason of ['', '  ']) await lead('post', api('/decisions'), { changes, reason }).expect(422)
  const { id } = await adopt(changes)
  await lead('post', api(`/decisions/${id}/withdraw`), { reason: '' }).expect(422)
  await lead('post', api(`/decisions/${id}/withdraw`), { reason: 'tried' }).expect(200)
})

const bound = async (grade: string, from: number): Promise<Decision> => {
  const { boundaries } = await table()
  return adopt([{ kind: 'bound', boundaries: boundaries.map((b) => (b.grade === grade ? { ...b, from } : b)), over: boundaries }])
}
const lines = async () => Object.fromEntries((await table()).boundaries.map((b) => [b.grade, b.from]))

test('a line taken back goes back alone: what another decision moved since stays where it was put', async () => {
  const before = await lines()
  const merit = await bound('Merit', 68)
  const credit = await bound('Credit', 58)
  expect(merit.summary).toBe('Merit begins at 68')
  await withdraw(merit.id).expect(200)
  expect(await lines()).toEqual({ ...before, Credit: 58 })
  await withdraw(credit.id).expect(200)
  expect(await lines()).toEqual(before)
})

test('a decision that holds others in order is not taken back, and it is said what to do', async () => {
  const low = await bound('Merit', 62)
  const high = await bound('Distinction', 66)
  // Merit would be above Distinction again.
  const answer = await withdraw(low.id).expect(409)
  expect((answer.body as { detail: string }).detail).toMatch(/would not be in order: .* Move the line that was drawn since first/)
  await withdraw(high.id).expect(200)
  await withdraw(low.id).expect(200)
})

test('policies are taken back one by one as well', async () => {
  const { policy } = await table()
  const rounding = await adopt([{ kind: 'policy', policy: { ...policy, rounding: null }, over: policy }])
  const now = (await table()).policy
  const late = await adopt([{ kind: 'policy', policy: { ...now, late: { kind: 'cap', percent: 40 } }, over: now }])
  expect(late.summary).toBe('policies: late at most 40%')
  await withdraw(rounding.id).expect(200)
  expect((await table()).policy).toEqual({ ...policy, late: { kind: 'cap', percent: 40 } })
  await withdraw(late.id).expect(200)
})

test('the course without a decision is told before it is withdrawn, and is what withdrawing it then gives', async () => {
  const t = await table()
  const w = workingsOf(t)
  const [cell] = openMap(t)
  const settled = await adopt(settleBy(w, [cell!], { kind: 'mean' }, 0.5))
  const without = (await lead('get', api(`/decisions/${settled.id}/without`)).expect(200)).body as TablePlan
  await withdraw(settled.id).expect(200)
  const { scripts: _, readings: __, version, ...after } = await table()
  expect({ ...without, version }).toEqual({ ...after, version })
  await lead('get', api('/decisions/none/without')).expect(404)
})

describe('criteria left out or given to all', () => {
  const of = `${COURSE}-map`
  const recount = (body: object) => lead('post', api(`/assessments/${of}/recount`), body)
  const adjusting = (method: Adjustment['method']): Change => ({
    kind: 'adjust',
    adjustment: { ...curve('criteria'), assessmentId: of, outOf: 100, method, neverLower: false, step: null },
  })

  test('what readings come to without one is in proportion to what is left, and adopted it stands', async () => {
    const criterionIds = ['generalisation']
    const counted = (await recount({ how: 'without', criterionIds }).expect(200)).body as Reread
    expect(counted.scriptIds.length).toBe(counted.marks.length)
    const one = server.db
      .prepare(`SELECT r.picks, x.body FROM reading r JOIN standard x ON x.id = r.standard_id WHERE r.script_id = ? AND r.marker_id = ?`)
      .get(counted.scriptIds[0], counted.markerIds[0]) as { picks: string; body: string }
    const picks = JSON.parse(one.picks) as Record<string, number>
    const { criteria } = JSON.parse(one.body) as { criteria: { id: string; penalty: boolean; levels: { points: number; to?: number }[] }[] }
    const left = criteria.filter((c) => c.id !== 'generalisation')
    const total = left.reduce((sum, c) => sum + (c.penalty ? -1 : 1) * (picks[c.id] ?? 0), 0)
    const most = left.reduce((sum, c) => sum + (c.penalty ? 0 : Math.max(...c.levels.map((l) => l.to ?? l.points))), 0)
    expect(counted.marks[0]).toBeCloseTo((100 * total) / most, 9)
    const decision = await adopt([adjusting({ kind: 'without', criterionIds, ...counted })])
    expect(decision.summary).toBe('Map project without a criterion')
    expect(decision.effect!.percents).toBeGreaterThan(50)
    const again = await lead('post', api('/decisions'), {
      changes: [
        {
          ...adjusting({ kind: 'without', criterionIds, ...counted }),
          adjustment: {
            ...curve('other'),
            assessmentId: of,
            outOf: 100,
            step: null,
            method: { kind: 'without', criterionIds, ...counted },
          },
        },
      ],
      reason: 'twice',
    }).expect(422)
    expect((again.body as { detail: string }).detail).toMatch(/left out or given already: change that adjustment/)
    await withdraw(decision.id).expect(200)
  })

  test('marks that the readings do not give are refused, and so are criteria that are not there', async () => {
    const counted = (await recount({ how: 'grant', criterionIds: ['purpose'] }).expect(200)).body as Reread
    const wrong = adjusting({ kind: 'grant', criterionIds: ['purpose'], ...counted, marks: counted.marks.map((m) => m + 1) })
    await lead('post', api('/decisions'), { changes: [wrong], reason: 'x' }).expect(409)
    await recount({ how: 'grant', criterionIds: ['nothing'] }).expect(422)
    await recount({ how: 'without', criterionIds: [] }).expect(422)
    await lead('post', api(`/assessments/nowhere/recount`), { how: 'grant', criterionIds: ['purpose'] }).expect(404)
  })
})

test.each<[string, Adjustment['method'], string | null, RegExp]>([
  [
    'a match that says nothing of its figures',
    { kind: 'matchMeanSd', to: { mean: 15, sd: 3 }, like: { group: 'typed' } },
    'traverse',
    /which marks it was fixed by/,
  ],
  [
    'a spread that is none',
    { kind: 'matchMeanSd', from: { mean: 15, sd: 0 }, to: { mean: 15, sd: 3 }, like: { group: 'typed' } },
    'traverse',
    /have no spread to match/,
  ],
  ['a lean of nobody', { kind: 'markerEffect', markerId: 'nobody', effect: 1, factor: 1 }, 'map', /no such marker/],
  ['a lean out of the course percent', { kind: 'markerEffect', markerId: 'marker-1', effect: 1, factor: 1 }, null, /is for an assessment/],
  ['the top of the course percent without saying what it was', { kind: 'topTo', to: 100 }, null, /try it anew/],
])('%s is refused', async (_, method, of, words) => {
  const outOf = of === 'traverse' ? 30 : 100
  const adjustment = { ...curve('x'), assessmentId: of && `${COURSE}-${of}`, outOf, method, neverLower: false }
  const answer = await lead('post', api('/decisions'), { changes: [{ kind: 'adjust', adjustment }], reason: 'x' }).expect(422)
  expect((answer.body as { detail: string }).detail).toMatch(words)
})
