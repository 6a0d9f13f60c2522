import {
  unpackJudged,
  USUAL_USE,
  type CourseTable,
  type DeskScript,
  type JudgedInColumns,
  type Pile,
  type PileScript,
  type Plan,
  type ScriptDetail,
  type SheetSince,
} from '#contract'
import { SIGN_INS } from '../../testing/markers'
import { demoServer, type Client } from '../../testing/serve'
import { sheetIn } from '../../testing/sheet-of'

const COURSE = 'cfs118-2026'
const SKETCH = `${COURSE}-sketch`
const TALK = `${COURSE}-talk-1`
const api = (path: string) => `/api/courses/${COURSE}${path}`

const { server, lead } = demoServer()
let first: Client
let second: Client
beforeAll(async () => {
  first = await server.as(SIGN_INS[0])
  second = await server.as(SIGN_INS[1])
}, 60_000)

const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
const piles = async (who: Client) => (await who('get', api('/piles')).expect(200)).body as Pile[]
const pile = async (who: Client, of = SKETCH) => (await who('get', api(`/assessments/${of}/pile`)).expect(200)).body as PileScript[]
const script = async (who: Client, studentId: string, of = SKETCH) =>
  (await who('get', api(`/assessments/${of}/pile/${studentId}`)).expect(200)).body as DeskScript
const FULL = { purpose: 6, generalisation: 5.5, lettering: 5, relief: 8, sources: 4, 'sheet-rules': 0 }
const reading = (more: object = {}) => ({
  version: 0,
  state: 'draft',
  gapMeant: false,
  afterSeeing: false,
  judged: { picks: FULL, judgement: null, mark: null },
  comment: '',
  criterionComments: {},
  notes: '',
  ...more,
})
const keep = (who: Client, studentId: string, body: object, of = SKETCH) =>
  who('put', api(`/assessments/${of}/pile/${studentId}/reading`), body)
/** What a desk calls a student's script where it is read blind, and the student that is meant by it. */
const blindId = (studentId: string, of = SKETCH) =>
  server.db.prepare('SELECT id FROM blind_script WHERE assessment_id = ? AND student_id = ?').pluck().get(of, studentId) as string
const behind = (deskId: string) =>
  (server.db.prepare('SELECT student_id FROM blind_script WHERE id = ?').pluck().get(deskId) as string | undefined) ?? deskId
const waiting = async (who: Client, of = SKETCH) => (await pile(who, of)).filter((s) => s.state === 'untouched')

test('a pile is one’s own, in one’s own order, with what is done of it', async () => {
  const own = (await piles(first)).find((p) => p.assessmentId === SKETCH)!
  const scripts = await pile(first)
  expect(own.total).toBe(scripts.length)
  expect(own.handedIn).toBe(scripts.filter((s) => s.state === 'handed in').length)
  const theirs = new Set((await waiting(second)).map((s) => s.studentId))
  expect((await waiting(first)).some((s) => theirs.has(s.studentId))).toBe(false)
  const [other] = theirs
  expect(detail(await first('get', api(`/assessments/${SKETCH}/pile/${other}`)).expect(404))).toMatch(/not in your pile/)
  await lead('get', api('/piles')).expect(403)
})

test('a draft is kept as it is made, is nobody’s business, and hands in only what is whole', async () => {
  const [s] = await waiting(first)
  const id = s!.studentId
  const version = () => (server.db.prepare('SELECT version FROM course WHERE id = ?').get(COURSE) as { version: number }).version
  const before = version()
  const half = { picks: { purpose: 6 }, judgement: null, mark: null }
  expect((await keep(first, id, reading({ judged: half, comment: 'Go on.' })).expect(200)).body).toEqual({
    version: 1,
    mark: null,
    state: 'draft',
  })
  expect(version()).toBe(before)
  expect((await script(first, id)).own).toMatchObject({ judged: half, comment: 'Go on.', state: 'draft', version: 1 })

  expect(detail(await keep(first, id, reading({ version: 1, judged: half, state: 'handed in' })).expect(422))).toMatch(
    /^Not judged yet: Generalisation, /,
  )
  expect(detail(await keep(first, id, reading({ version: 1, judged: { ...half, picks: { purpose: 7 } } })).expect(422))).toMatch(
    /7 is not one of its levels/,
  )
  const handedIn = await keep(first, id, reading({ version: 1, state: 'handed in', notes: 'for us' })).expect(200)
  expect(handedIn.body).toEqual({ version: 2, mark: 28.5, state: 'handed in' })
  expect(version()).toBe(before + 1)

  // The answer was lost and it is sent again: once is enough.
  expect((await keep(first, id, reading({ version: 1, state: 'handed in', notes: 'for us' })).expect(200)).body).toEqual(handedIn.body)
  expect(detail(await keep(first, id, reading({ version: 1, comment: 'another' })).expect(409))).toBe(
    'You changed this reading in another window.',
  )

  expect((await keep(first, id, reading({ version: 2 })).expect(200)).body).toMatchObject({ version: 3, state: 'draft' })
  const states = server.db
    .prepare('SELECT version, state, comment FROM reading_state WHERE reading_id LIKE ? ORDER BY version')
    .all(`%${id}/marker-1`)
  expect(states).toEqual([
    { version: 1, state: 'draft', comment: 'Go on.' },
    { version: 2, state: 'handed in', comment: '' },
  ])
  expect(() => server.db.prepare('DELETE FROM reading_state').run()).toThrow('kept')
})

test('with a gap on purpose, what is not judged gives nothing', async () => {
  const [s] = await waiting(first)
  const judged = { picks: { purpose: 8, 'sheet-rules': 2 }, judgement: null, mark: null }
  const done = await keep(first, s!.studentId, reading({ judged, state: 'handed in', gapMeant: true })).expect(200)
  expect((done.body as { mark: number }).mark).toBe(6)
})

test('an overall judgement gives the mark, and nothing else does', async () => {
  const [s] = await waiting(first, TALK)
  const notes = { judged: { picks: {}, judgement: null, mark: 90 }, criterionComments: { poise: 'steady' } }
  expect(detail(await keep(first, s!.studentId, reading({ ...notes, state: 'handed in' }), TALK).expect(422))).toBe(
    'Choose a label of the scale.',
  )
  const judged = { picks: {}, judgement: 'assured', mark: null }
  const done = await keep(first, s!.studentId, reading({ ...notes, judged, state: 'handed in' }), TALK).expect(200)
  expect((done.body as { mark: number }).mark).toBe(76)
})

test('others are seen only after handing in, only as far as set, and without their names', async () => {
  const [s] = await waiting(first)
  const id = s!.studentId
  server.db
    .prepare('INSERT INTO allotment (assessment_id, student_id, marker_id, place, by_id, at) VALUES (?, ?, ?, 1, ?, ?)')
    .run(SKETCH, id, 'marker-2', 'lead', '2026-11-24T00:00:00.000Z')
  await keep(
    second,
    id,
    reading({ state: 'handed in', comment: 'SEEN-COMMENT', notes: 'SEEN-NOTE', criterionComments: { relief: 'SEEN-CRITERION' } }),
  ).expect(200)
  const secret = /SEEN|28\.5|Lea Ostrand/
  for (const marks of [false, true])
    for (const comments of [false, true])
      for (const notes of [false, true]) {
        await lead('put', api(`/assessments/${SKETCH}/blindness`), { blind: true, sees: { marks, comments, notes } }).expect(204)
        await pile(first)
        expect(JSON.stringify(await script(first, blindId(id)))).not.toMatch(secret)
      }
  await keep(
    first,
    blindId(id),
    reading({ judged: { picks: { ...FULL, relief: 10 }, judgement: null, mark: null }, state: 'handed in' }),
  ).expect(200)
  for (const marks of [false, true])
    for (const comments of [false, true])
      for (const notes of [false, true]) {
        await lead('put', api(`/assessments/${SKETCH}/blindness`), { blind: true, sees: { marks, comments, notes } }).expect(204)
        const seen = JSON.stringify((await script(first, blindId(id))).others)
        expect([seen.includes('28.5'), seen.includes('SEEN-COMMENT'), seen.includes('SEEN-CRITERION'), seen.includes('SEEN-NOTE')]).toEqual(
          [marks, comments, comments, notes],
        )
        expect(seen).not.toContain('Lea')
      }
})

test('marked blind, no name reaches the desk; with points hidden, no mark does', async () => {
  const named = ((await lead('get', api('/table'))).body as CourseTable).students
  await lead('put', api(`/assessments/${SKETCH}/blindness`), {
    blind: false,
    sees: { marks: false, comments: false, notes: false },
  }).expect(204)
  expect((await pile(first)).every((s) => named.some((n) => n.id === s.studentId && n.name === s.label))).toBe(true)
  await lead('put', api(`/assessments/${SKETCH}/blindness`), { blind: true, sees: { marks: false, comments: false, notes: false } }).expect(
    204,
  )
  const answers = JSON.stringify([await pile(first), await script(first, (await pile(first))[0]!.studentId), await piles(first)])
  for (const s of named) expect(answers).not.toContain(s.name)

  const { version } = ((await lead('get', api('/plan'))).body as Plan).assessments.find((a) => a.id === SKETCH)!
  await lead('patch', api(`/assessments/${SKETCH}`), { version, use: { ...USUAL_USE, hidePoints: true } }).expect(200)
  expect((await pile(first)).every((s) => s.mark === null)).toBe(true)
  const [s] = await waiting(first)
  const body = (await script(first, s!.studentId)).standard!.body as { criteria: { id: string }[] }
  const judged = { picks: Object.fromEntries(body.criteria.map((c) => [c.id, 0])), judgement: null, mark: null }
  expect((await keep(first, s!.studentId, reading({ judged, state: 'handed in' })).expect(200)).body).toMatchObject({
    mark: null,
    state: 'handed in',
  })
  await lead('patch', api(`/assessments/${SKETCH}`), { version: version + 1, use: USUAL_USE }).expect(200)
})

test('once a mark is agreed on it, a reading is not taken back', async () => {
  const done = (await pile(first)).find((s) => s.state === 'handed in')!
  const scriptId = (
    server.db.prepare('SELECT id FROM script WHERE assessment_id = ? AND student_id = ?').get(SKETCH, behind(done.studentId)) as {
      id: string
    }
  ).id
  const reason = 'Both read it'
  const changes = [{ kind: 'settle', scriptId, rule: { kind: 'value', mark: 20, reason }, step: null, mark: 20 }]
  await lead('post', api('/decisions'), { changes, reason }).expect(200)
  const { own, fixed } = await script(first, done.studentId)
  expect(fixed).toMatch(/^Ines Valdry has agreed a mark/)
  expect(detail(await keep(first, done.studentId, reading({ version: own.version })).expect(409))).toMatch(/ask for that to be withdrawn/)
})

test('a stock of comments: the most used first, nobody else’s', async () => {
  const stock = async (who: Client) =>
    (await who('get', api('/kept-comments')).expect(200)).body as { id: string; words: string; used: number }[]
  const before = await stock(first)
  expect(before[0]!.words).toMatch(/^Say whom/)
  const add = () => first('post', api('/kept-comments'), { words: 'Date the survey.' }).expect(200)
  await add()
  await add()
  const kept = (await stock(first)).find((c) => c.words === 'Date the survey.')!
  expect(kept.used).toBe(2)
  expect(await stock(second)).toEqual([])
  await second('delete', api(`/kept-comments/${kept.id}`)).expect(404)
  await first('delete', api(`/kept-comments/${kept.id}`)).expect(204)
  expect(await stock(first)).toHaveLength(before.length)
})

test('an overall judgement: notes beside it are kept under what they are on, and never set the mark', async () => {
  const [s] = await waiting(first, TALK)
  const id = s!.studentId
  const { assessment } = await script(first, id, TALK)
  expect(assessment.use.noteOn).toEqual(['Said to the listener', 'Shown on the ground'])
  const noted = {
    judged: { picks: {}, judgement: null, mark: null },
    criterionComments: { 'Shown on the ground': 'Stood at the fault itself.' },
  }
  expect((await keep(first, id, reading(noted), TALK).expect(200)).body).toMatchObject({ mark: null, state: 'draft' })
  expect(detail(await keep(first, id, reading({ ...noted, version: 1, state: 'handed in', gapMeant: true }), TALK).expect(422))).toMatch(
    /Choose a label/,
  )
  const judged = { ...noted, judged: { picks: {}, judgement: 'sound', mark: null }, version: 1, state: 'handed in' }
  const { mark } = (await keep(first, id, reading(judged), TALK).expect(200)).body as { mark: number }
  expect(mark).toBeGreaterThan(0)
  expect((await script(first, id, TALK)).own.criterionComments).toEqual(noted.criterionComments)
})

test('what is noted on beside a judgement is said once each', async () => {
  const plan = (await lead('get', api('/plan')).expect(200)).body as Plan
  const { version, use } = plan.assessments.find((a) => a.id === TALK)!
  const twice = await lead('patch', api(`/assessments/${TALK}`), { version, use: { ...use, noteOn: ['Voice', 'voice'] } }).expect(422)
  expect(detail(twice)).toMatch(/stands there twice/)
})

test('done or not is handed in as all it is marked out of or nothing, and counts', async () => {
  const course = 'cfs214-2026'
  const of = (path: string) => `/api/courses/${course}/assessments/${course}-part-1${path}`
  const rule = {
    how: 'draw',
    readings: 1,
    markers: [{ id: 'marker-1', capacity: 1 }],
    panels: [],
    avoidOwnSection: false,
    keep: false,
    moveBegun: [],
    seed: 1,
    sample: { share: 0, least: 0, zone: 0 },
  }
  await lead('put', of('/sharing'), rule).expect(200)
  const [s] = ((await first('get', of('/pile')).expect(200)).body as PileScript[]).filter((x) => x.state === 'untouched')
  const path = of(`/pile/${s!.studentId}/reading`)
  const judged = (mark: number | null, more: object = {}) => reading({ judged: { picks: {}, judgement: null, mark }, ...more })
  expect(detail(await first('put', path, judged(0.5)).expect(422))).toBe('It is done, 1, or not done, 0.')
  expect(detail(await first('put', path, judged(null, { state: 'handed in' })).expect(422))).toBe('Say whether it was done.')
  expect((await first('put', path, judged(1, { state: 'handed in' })).expect(200)).body).toMatchObject({ mark: 1, state: 'handed in' })
  const { assessment, own } = (await first('get', of(`/pile/${s!.studentId}`)).expect(200)).body as DeskScript
  expect([assessment.marking, own.mark]).toEqual(['completion', 1])
})

test('what was judged is told as it stands: a reading handed in after one looked is there the next time', async () => {
  const judged = async () => unpackJudged((await lead('get', api(`/assessments/${SKETCH}/judged`)).expect(200)).body as JudgedInColumns)
  const [before, again] = await Promise.all([judged(), judged()])
  expect(again).toEqual(before)
  const [s] = await waiting(first)
  await keep(first, s!.studentId, reading({ state: 'handed in' })).expect(200)
  const { criteria, students, student, mark, points } = await judged()
  expect(mark).toHaveLength(before.mark.length + 1)
  const at = Array.from(student).findIndex((k) => students[k] === behind(s!.studentId))
  expect(Object.fromEntries(criteria.map((c, k) => [c.id, points[k]![at]]))).toEqual(FULL)
})

test('an open sheet is told of a handed-in reading alone: the lead what it says, who reads blind nothing', async () => {
  const sheetOf = async (who: Client) => sheetIn((await who('get', api('/sheet')).expect(200)).body)
  const before = await sheetOf(lead)
  const [s] = await waiting(first)
  const handIn = (more: object = {}) => keep(first, s!.studentId, reading({ state: 'handed in', ...more })).expect(200)
  await handIn()
  const since = async (who: Client) => (await who('get', api(`/sheet/since/${before.version}`)).expect(200)).body as SheetSince
  const now = await sheetOf(lead)
  const cell = now.cells.find((c) => c.studentId === behind(s!.studentId) && c.assessmentId === SKETCH)!
  expect(cell.fromReadings!.readings).toBeGreaterThan(0)
  expect(await since(lead)).toEqual({ version: now.version, cells: [{ ...cell, overTolerance: expect.any(Boolean) as boolean }] })
  // Told beside a name, it would tell whose script was read blind.
  expect((await since(first)).cells).toEqual([])

  // A second reading far from it opens the cell and sets it apart.
  server.db
    .prepare('INSERT INTO allotment (assessment_id, student_id, marker_id, place, by_id, at) VALUES (?, ?, ?, 1, ?, ?)')
    .run(SKETCH, behind(s!.studentId), 'marker-2', 'lead', '2026-11-24T00:00:00.000Z')
  const low = { picks: { ...FULL, purpose: 0, generalisation: 0, relief: 0, sources: 0 }, judgement: null, mark: null }
  await keep(second, s!.studentId, reading({ state: 'handed in', judged: low })).expect(200)
  const [apart] = (await since(lead)).cells!
  expect(apart).toMatchObject({ fromReadings: { readings: cell.fromReadings!.readings + 1 }, overTolerance: true })
  expect((await sheetOf(lead)).overTolerance).toContainEqual({ studentId: behind(s!.studentId), assessmentId: SKETCH })

  // Anything else than cells is not told in parts.
  const { version, use } = ((await lead('get', api('/plan')).expect(200)).body as Plan).assessments.find((a) => a.id === SKETCH)!
  await lead('patch', api(`/assessments/${SKETCH}`), { version, use }).expect(200)
  expect((await since(lead)).cells).toBeNull()
})

describe('a reading changed after others’ were seen', () => {
  const course = 'cfs214-2026'
  const of = (path: string) => `/api/courses/${course}/assessments/${course}-map${path}`
  let who: Client
  let studentId: string
  beforeAll(async () => {
    who = await server.as('rune.daal')
    // Neither settled nor read anew: it can be taken back.
    const scripts = (await who('get', of('/pile')).expect(200)).body as PileScript[]
    for (const s of scripts) {
      const seen = (await who('get', of(`/pile/${s.studentId}`)).expect(200)).body as DeskScript
      if (seen.own.state === 'handed in' && !seen.fixed) studentId ??= s.studentId
    }
  })
  const own = async () => ((await who('get', of(`/pile/${studentId}`)).expect(200)).body as DeskScript).own
  const write = async (more: object) => {
    const { state: _, version, mark: _m, ...body } = await own()
    return who('put', of(`/pile/${studentId}/reading`), { ...body, version, gapMeant: false, afterSeeing: false, ...more })
  }
  const told = async () =>
    ((await lead('get', `/api/courses/${course}/scripts/${course}-map:${behind(studentId)}`).expect(200)).body as ScriptDetail).readings

  test('is changed only with that said, every state is kept, and the lead sees it; notes for markers reach the lead', async () => {
    const before = await own()
    await write({ state: 'draft' }).then((r) => expect(r.status).toBe(200))
    await write({ state: 'handed in', notes: 'FOR-MARKERS' }).then((r) => expect(r.status).toBe(200))
    expect((await told()).find((r) => r.notes === 'FOR-MARKERS')).toMatchObject({ afterSeeing: false })
    server.db.prepare('UPDATE assessment SET sees = ? WHERE id = ?').run('{"marks":true}', `${course}-map`)
    expect(((await who('get', of(`/pile/${studentId}`)).expect(200)).body as DeskScript).others.length).toBeGreaterThan(0)
    const silent = await write({ state: 'draft' })
    expect([silent.status, detail(silent)]).toEqual([409, expect.stringMatching(/the lead sees that it was changed after that/)])
    await write({ state: 'draft', afterSeeing: true }).then((r) => expect(r.status).toBe(200))
    await write({ state: 'handed in' }).then((r) => expect(r.status).toBe(200))
    const mine = (await told()).find((r) => r.notes === 'FOR-MARKERS')!
    expect(mine.afterSeeing).toBe(true)
    expect(mine.earlier.map((e) => e.state)).toEqual(['draft', 'handed in', 'draft', 'handed in'])
    expect(mine.earlier.map((e) => e.afterSeeing)).toEqual([true, false, false, false])
    expect(mine.earlier.at(-1)!.mark).toBe(before.mark)
  })

  test('of drafts a bounded number of states is kept, however often one saves', async () => {
    await write({ state: 'draft', afterSeeing: true })
    const states = () =>
      server.db
        .prepare(
          "SELECT count(*) AS n FROM reading_state s JOIN reading r ON r.id = s.reading_id WHERE r.script_id = ? AND s.state = 'draft'",
        )
        .pluck()
        .get(`${course}-map:${behind(studentId)}`) as number
    const before = states()
    for (let i = 0; i < 30; i++) await write({ state: 'draft', comment: `thought ${i}` }).then((r) => expect(r.status).toBe(200))
    expect(states() - before).toBeLessThanOrEqual(1)
  })
})

test('a marker lifts no hold or exemption of the lead’s, and sets none on a script that others read', async () => {
  const course = 'cfs214-2026'
  const rune = await server.as('rune.daal')
  const mine = sheetIn((await rune('get', `/api/courses/${course}/sheet`).expect(200)).body)
  const cell = mine.cells.find((c) => c.assessmentId === `${course}-levelling` && c.status === 'in')!
  const put = async (as: Client, assessmentId: string, status: string) => {
    const now = sheetIn((await lead('get', `/api/courses/${course}/sheet`).expect(200)).body).cells.find(
      (c) => c.studentId === cell.studentId && c.assessmentId === assessmentId,
    )!
    const write = { studentId: cell.studentId, assessmentId, version: now.version, mark: now.mark, status, daysLate: 0 }
    return (await as('patch', `/api/courses/${course}/sheet`, { cells: [write] }).expect(200)).body as {
      refused: { kind: string; message: string }[]
    }
  }
  for (const status of ['held', 'exempt']) {
    expect((await put(lead, cell.assessmentId, status)).refused).toEqual([])
    expect((await put(rune, cell.assessmentId, 'in')).refused).toEqual([
      expect.objectContaining({ kind: 'set by lead', message: `It is ${status}, as the lead set it: ask for that to be lifted.` }),
    ])
  }
  expect((await put(lead, cell.assessmentId, 'in')).refused).toEqual([])
  expect((await put(rune, cell.assessmentId, 'held')).refused).toEqual([])
  expect((await put(rune, cell.assessmentId, 'in')).refused).toEqual([])
  expect((await put(rune, `${course}-map`, 'held')).refused).toEqual([
    expect.objectContaining({ kind: 'set by lead', message: 'Others read this script: the lead sets it to held.' }),
  ])
})

test('a lead takes out which number stands for whom, to label papers by, and that is on the audit list; nobody else does', async () => {
  const { db } = server
  const blind = db.prepare<[string], { id: string }>('SELECT id FROM assessment WHERE course_id = ? AND blind = 1 LIMIT 1').get(COURSE)!
  const open = db.prepare<[string], { id: string }>('SELECT id FROM assessment WHERE course_id = ? AND blind = 0 LIMIT 1').get(COURSE)!
  const path = (id: string) => api(`/assessments/${id}/numbers-of-papers.csv`)
  const { text } = await lead('get', path(blind.id)).expect(200)
  const rows = text.trim().split('\r\n').slice(1)
  expect(rows).toHaveLength(
    db
      .prepare('SELECT count(*) FROM enrolment e JOIN student s ON s.id = e.student_id WHERE s.course_id = ? AND e.to_day IS NULL')
      .pluck()
      .get(COURSE) as number,
  )
  const kept = db
    .prepare<[string], { number: string; candidate: string }>(
      'SELECT b.number, s.candidate FROM blind_script b JOIN student s ON s.id = b.student_id WHERE b.assessment_id = ?',
    )
    .all(blind.id)
  for (const { number, candidate } of kept.slice(0, 5)) expect(rows.find((r) => r.startsWith(`${number},`))).toContain(candidate)
  expect(db.prepare('SELECT words FROM audit ORDER BY id DESC LIMIT 1').pluck().get()).toBe('numbers-of-papers.csv')
  await lead('get', path(open.id)).expect(409)
  const marker = await server.as('rune.daal')
  await marker('get', path(blind.id)).expect(403)
})
