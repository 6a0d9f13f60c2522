import { type ByStanding, type Cell, type LevelsWorth, type Library, type OutcomeBody, type Sheet } from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'
import { sheetIn } from '../../testing/sheet-of'

const PART = `${COURSE}-part-1`
const OUTCOME = 'outcome-account'
const PERCENTS = [0, 40, 70, 100]

const { server, lead } = demoServer()
let marker: Client
let studentId: string
beforeAll(async () => {
  marker = await server.as('rune.daal')
  studentId = server.db
    .prepare<[], string>("SELECT id FROM student WHERE person_id = 'student' AND course_id = 'cfs214-2026'")
    .pluck()
    .get()!
  server.db.prepare('UPDATE assessment SET out_of = 35 WHERE id = ?').run(PART)
  server.db.prepare('UPDATE course SET version = version + 1, plan_version = plan_version + 1 WHERE id = ?').run(COURSE)
}, 60_000)

const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
const worthIt = (worth: LevelsWorth, assessment = PART) =>
  lead('put', api(`/assessments/${assessment}/by-standing`), { outcomeId: OUTCOME, worth })
const put = (percents: number[] = PERCENTS, assessment = PART) => worthIt({ kind: 'typed', percents }, assessment)
const sheet = async (): Promise<Sheet> => sheetIn((await lead('get', api('/sheet')).expect(200)).body)
const cells = async (): Promise<Cell[]> => (await sheet()).cells.filter((c) => c.assessmentId === PART)
const own = async () => (await cells()).find((c) => c.studentId === studentId)!
const note = (level: number, day: string) =>
  lead('post', api(`/outcomes/${OUTCOME}/evidence`), { studentId, level, day, note: 'Seen at the weir.' })
/** Waits until the mark that follows is this, which open pages are told of. */
async function untilMark(mark: number, work: () => Promise<unknown>): Promise<void> {
  const now = server.db.prepare<[string, string], number>('SELECT entered FROM script WHERE assessment_id = ? AND student_id = ?').pluck()
  const listener = await server.listen('ines.valdry')
  await listener.until((heard) => heard.includes('data:'))
  await work()
  await listener.until(() => now.get(PART, studentId) === mark)
  listener.end()
}

test('every level must be worth something, none less than a lower one, and what is read cannot be marked so', async () => {
  expect(detail(await put([0, 100]).expect(422))).toMatch(/has 4 levels/)
  expect(detail(await put([0, 60, 40, 100]).expect(422))).toMatch(/must not be worth less/)
  expect(detail(await put(PERCENTS, `${COURSE}-map`).expect(409))).toMatch(/marked by readings/)
  await put(PERCENTS, 'nothing').expect(404)
})

test('marks are what the level is worth; who has not enough evidence is pending, and each is kept in its history', async () => {
  const { marks } = (await put().expect(200)).body as { marks: number }
  expect(marks).toBeGreaterThan(50)
  const now = await cells()
  expect(new Set(now.map((c) => c.mark))).toEqual(new Set([0, 14, 24.5, 35, null].filter((m) => now.some((c) => c.mark === m))))
  expect(now.filter((c) => c.mark !== null).every((c) => [0, 14, 24.5, 35].includes(c.mark!))).toBe(true)
  expect((await sheet()).assessments.find((a) => a.id === PART)!.byStanding).toBe('Accounts for every observation')
  const state = server.db.prepare('SELECT entered, by_id AS by FROM script_state WHERE script_id = ? ORDER BY version DESC LIMIT 1')
  expect(state.get(`${PART}:${studentId}`)).toEqual({ entered: (await own()).mark, by: 'lead' })
  // Done once more, nothing is another.
  expect((await put().expect(200)).body).toEqual({ marks: 0 })
  expect((await lead('get', api('/by-standing'))).body as ByStanding[]).toEqual([
    {
      assessmentId: PART,
      outcomeId: OUTCOME,
      outcome: 'Accounts for every observation',
      worth: { kind: 'typed', percents: PERCENTS },
      percents: PERCENTS,
      scale: null,
    },
  ])
})

test('it follows what is noted by hand, as soon as that is', async () => {
  const before = (await own()).mark
  expect(before).not.toBe(35)
  await untilMark(35, async () => {
    await note(4, '2026-11-24').expect(200)
    await note(4, '2026-11-25').expect(200)
  })
  expect((await own()).mark).toBe(35)
})

test('nothing is typed over it, by whomever', async () => {
  const { version, status } = await own()
  const cell = { studentId, assessmentId: PART, version, mark: 3, status, daysLate: 0 }
  const { body } = await lead('patch', api('/sheet'), { cells: [cell] }).expect(200)
  expect(body).toMatchObject({
    saved: [],
    refused: [{ kind: 'readings', message: expect.stringMatching(/marked by where students stand/) as string }],
  })
  await marker('put', api(`/assessments/${PART}/by-standing`), { outcomeId: OUTCOME, worth: { kind: 'typed', percents: PERCENTS } }).expect(
    403,
  )
})

test('what levels are worth is read off a scale of the library, whose version is not changed under it', async () => {
  const library = async () => ((await lead('get', api('/library')).expect(200)).body as Library).scales
  const body = { labels: [10, 30, 50, 80].map((percent) => ({ label: `about ${percent}`, percent, threshold: percent - 10 })) }
  const standard = { kind: 'scale', title: 'Four words', body }
  const { id: scaleId } = (await lead('post', api('/library'), { standard, source: null }).expect(200)).body as { id: string }
  const worth: LevelsWorth = { kind: 'scale', scaleId, labels: [0, 2, 2, 3] }
  const { marks } = (await worthIt(worth).expect(200)).body as { marks: number }
  expect(marks).toBeGreaterThan(50)
  expect((await cells()).every((c) => c.mark === null || [3.5, 17.5, 28].includes(c.mark))).toBe(true)
  expect((await lead('get', api('/by-standing'))).body as ByStanding[]).toMatchObject([
    { worth, percents: [10, 50, 50, 80], scale: { title: 'Four words', labels: ['about 10', 'about 50', 'about 50', 'about 80'] } },
  ])
  expect(detail(await worthIt({ ...worth, labels: [0, 1, 2, 9] }).expect(404))).toBe('“Four words” has no such label.')
  expect(detail(await worthIt({ ...worth, labels: [0, 2, 1, 3] }).expect(422))).toMatch(/must not be worth less/)
  expect(detail(await worthIt({ ...worth, scaleId: OUTCOME }).expect(404))).toBe('There is no such scale.')

  const { revision, title } = (await library()).find((s) => s.id === scaleId)!
  const higher = { labels: body.labels.map((l) => ({ ...l, percent: l.percent + 20 })) }
  await lead('put', api(`/library/${scaleId}`), { revision, standard: { kind: 'scale', title, body: higher } }).expect(200)
  expect((await library()).find((s) => s.title === title)!.version).toBe(2)
  expect((await worthIt(worth).expect(200)).body).toEqual({ marks: 0 })
  await put().expect(200)
})

test('who is exempt stays that; by hand again, the marks stay and are typed', async () => {
  const { version } = await own()
  const cell = { studentId, assessmentId: PART, version, mark: null, status: 'exempt', daysLate: 0 }
  await lead('patch', api('/sheet'), { cells: [cell] }).expect(200)
  expect((await put().expect(200)).body).toEqual({ marks: 0 })
  expect(await own()).toMatchObject({ status: 'exempt', mark: null })
  const others = (await cells()).map((c) => c.mark)
  await lead('delete', api(`/assessments/${PART}/by-standing`)).expect(204)
  expect((await cells()).map((c) => c.mark)).toEqual(others)
  const { version: then } = await own()
  // By hand it is done or not done, and nothing between.
  const typed = { studentId, assessmentId: PART, version: then, mark: 0, status: 'in', daysLate: 0 }
  expect((await lead('patch', api('/sheet'), { cells: [{ ...typed, mark: 20 }] })).body).toMatchObject({
    saved: [],
    refused: [{ kind: 'range' }],
  })
  expect((await lead('patch', api('/sheet'), { cells: [typed] })).body).toMatchObject({ refused: [], saved: [{ mark: 0 }] })
})

test('one that came with a course that was brought in is followed too, from the first write on', async () => {
  const { version, mark } = await own()
  expect(mark).toBe(0)
  server.db
    .prepare(
      "INSERT INTO by_standing (assessment_id, outcome_id, percents, by_id, at) SELECT ?, ?, ?, id, '2026-11-25' FROM person LIMIT 1",
    )
    .run(PART, OUTCOME, JSON.stringify(PERCENTS))
  await untilMark(35, () => note(4, '2026-11-25').expect(200))
  expect(await own()).toMatchObject({ mark: 35, version: version + 1 })
})

test('an outcome that is changed from another course is followed; with a level more, marks stay until each level is worth something', async () => {
  const other = '/api/courses/cfs118-2026'
  server.db.prepare("UPDATE standard SET owner_id = 'lead' WHERE id = ?").run(OUTCOME)
  const outcome = () =>
    server.db
      .prepare<[], { id: string; revision: number; title: string; body: string }>(
        `SELECT id, revision, title, body FROM standard WHERE kind = 'outcome' AND title = 'Accounts for every observation' ORDER BY version DESC LIMIT 1`,
      )
      .get()!
  const edit = async (to: (body: OutcomeBody) => OutcomeBody) => {
    const { id, revision, title, body } = outcome()
    await lead('put', `${other}/library/${id}`, {
      revision,
      standard: { kind: 'outcome', title, body: to(JSON.parse(body) as OutcomeBody) },
    }).expect(200)
  }
  await note(4, '2026-01-01').expect(200)
  await edit((b) => ({ ...b, rule: { kind: 'times', times: 9, of: null } }))
  await put().expect(200)
  expect((await own()).mark).not.toBe(35)
  await untilMark(35, () => edit((b) => ({ ...b, rule: { kind: 'highest' } })))
  const marks = (await cells()).map((c) => c.mark)
  await edit((b) => ({ ...b, levels: [...b.levels, { label: 'beyond', words: '' }] }))
  // Somebody else's write sets off the next look, which leaves all as it is.
  await note(4, '2026-11-27').expect(200)
  expect((await cells()).map((c) => c.mark)).toEqual(marks)
  expect((await put([0, 20, 40, 60, 80]).expect(200)).body).toMatchObject({ marks: expect.any(Number) as number })
  // What was the highest of four is the highest of five.
  expect((await own()).mark).toBe(28)
})
