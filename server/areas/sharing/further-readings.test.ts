import { gradeWorkings, settleBy, standingRows, workingsOf, workingsSince } from '#core/trial'
import {
  unpackTable,
  type AskedReading,
  type Decision,
  type PileScript,
  type Sharing,
  type TableInColumns,
  type TableSince,
} from '#contract'
import { wholeResult } from '../../../core/testing/whole-result'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'
import { sheetIn } from '../../testing/sheet-of'

const MAP = `${COURSE}-map`
const { server, lead } = demoServer()

const table = async () => {
  const t = unpackTable((await lead('get', api('/table')).expect(200)).body as TableInColumns)
  return { ...t, workings: workingsOf(t) }
}
const decide = async (changes: unknown[]) =>
  (await lead('post', api('/decisions'), { changes, reason: 'within tolerance' }).expect(200)).body as Decision
const ask = (wanted: unknown[], because = 'far apart') => lead('post', api('/further-readings'), { wanted, because })
const asked = async () => (await lead('get', api('/further-readings')).expect(200)).body as AskedReading[]
const signInOf = (markerId: string) => server.db.prepare('SELECT sign_in FROM person WHERE id = ?').pluck().get(markerId) as string
/** How a marker’s desk calls the script of a student. */
const onDesk = async (who: Client, studentId: string) => {
  await who('get', api(`/assessments/${MAP}/pile`)).expect(200)
  return server.db.prepare('SELECT id FROM blind_script WHERE assessment_id = ? AND student_id = ?').pluck().get(MAP, studentId) as string
}
/** Reads a script as another reader of it did. */
async function handIn(markerId: string, studentId: string): Promise<void> {
  const marker = await server.as(signInOf(markerId))
  const picks = server.db
    .prepare(
      "SELECT r.picks FROM reading r JOIN script s ON s.id = r.script_id WHERE s.student_id = ? AND s.assessment_id = ? AND r.state = 'handed in'",
    )
    .pluck()
    .get(studentId, MAP) as string
  await marker('put', api(`/assessments/${MAP}/pile/${await onDesk(marker, studentId)}/reading`), {
    version: 0,
    state: 'handed in',
    gapMeant: false,
    afterSeeing: false,
    judged: { picks: JSON.parse(picks) as unknown, judgement: null, mark: null },
    comment: '',
    criterionComments: {},
    notes: '',
  }).expect(200)
}

test('a reading is asked of whoever suits, comes to their desk, and waits there until it is handed in', async () => {
  const { workings } = await table()
  const [open] = standingRows(workings).filter((s) => s.assessmentId === MAP && s.source === 'open')
  const { studentId } = open!
  const answer = (await ask([{ assessmentId: MAP, studentId, markerId: null }]).expect(200)).body as { asked: AskedReading[] }
  const [one] = answer.asked
  expect(one).toMatchObject({ studentId, because: 'far apart', state: 'waiting' })
  const readers = server.db
    .prepare('SELECT marker_id FROM reading r JOIN script s ON s.id = r.script_id WHERE s.student_id = ? AND s.assessment_id = ?')
    .pluck()
    .all(studentId, MAP)
  expect(readers).not.toContain(one!.markerId)
  const marker = await server.as(signInOf(one!.markerId))
  const pile = (await marker('get', api(`/assessments/${MAP}/pile`)).expect(200)).body as PileScript[]
  const id = await onDesk(marker, studentId)
  expect(pile.find((s) => s.studentId === id)?.state).toBe('untouched')
  // Asked of the same marker twice, or of who is none.
  expect((await ask([{ assessmentId: MAP, studentId, markerId: one!.markerId }]).expect(409)).body).toMatchObject({
    detail: 'That marker reads this already.',
  })
  await ask([{ assessmentId: MAP, studentId, markerId: 'nobody' }]).expect(422)
  await ask([{ assessmentId: MAP, studentId, markerId: null }], ' ').expect(422)
  await handIn(one!.markerId, studentId)
  expect((await asked()).find((a) => a.studentId === studentId)?.state).toBe('handed in')
  await lead('delete', api(`/assessments/${MAP}/further-readings/${studentId}/${one!.markerId}`)).expect(409)
})

test('one that nobody has begun is taken back; sharing out anew leaves it where it is', async () => {
  const { students } = await table()
  const studentId = students.at(-1)!.id
  const [one] = ((await ask([{ assessmentId: MAP, studentId, markerId: null }]).expect(200)).body as { asked: AskedReading[] }).asked
  const { rule } = (await lead('get', api(`/assessments/${MAP}/sharing`)).expect(200)).body as Sharing
  const { markers } = await table()
  const anew = rule ?? {
    how: 'draw',
    readings: 2,
    markers: markers.map(({ id }) => ({ id, capacity: 1 })),
    panels: [],
    avoidOwnSection: true,
    seed: 3,
    keep: false,
    moveBegun: [],
    sample: { share: 0, least: 0, zone: 0 },
  }
  await lead('put', api(`/assessments/${MAP}/sharing`), anew).expect(200)
  expect((await asked()).some((a) => a.studentId === studentId)).toBe(true)
  await lead('delete', api(`/assessments/${MAP}/further-readings/${studentId}/${one!.markerId}`)).expect(204)
  expect((await asked()).some((a) => a.studentId === studentId)).toBe(false)
})

test('a reading that comes after a script was settled opens it again, for everybody at once', async () => {
  const had = await table()
  const cell = standingRows(had.workings).find(
    (s) => s.assessmentId === MAP && s.source === 'open' && had.workings.readings.cell.filter((c) => c === s.cell).length === 2,
  )!.cell
  const scriptId = had.workings.cells.scriptId(cell)
  const studentId = had.workings.cells.studentId(cell)
  const settle = settleBy(had.workings, [cell], { kind: 'mean' }, null)
  const decision = await decide(settle)
  const settled = await table()
  expect(settled.agreed[scriptId]).toBeDefined()
  const [one] = ((await ask([{ assessmentId: MAP, studentId, markerId: null }]).expect(200)).body as { asked: AskedReading[] }).asked
  await handIn(one!.markerId, studentId)

  const after = await table()
  expect([after.agreed[scriptId], after.reopened]).toEqual([undefined, [scriptId]])
  expect(standingRows(after.workings).find((s) => s.cell === cell)).toMatchObject({ source: 'open', mark: null })
  // A page that had the course before comes to the same by what was written since.
  const since = (await lead('get', api(`/table/since/${had.version}`)).expect(200)).body as NonNullable<TableSince>
  const brought = workingsSince(had.workings, since)!.workings
  expect(wholeResult(gradeWorkings(brought))).toEqual(wholeResult(gradeWorkings(after.workings)))

  // Settled anew it stands; taken back, it is open as it was.
  const anew = await decide(settleBy(after.workings, [cell], { kind: 'median' }, null))
  expect((await table()).agreed[scriptId]).toBeDefined()
  await lead('post', api(`/decisions/${anew.id}/withdraw`), { reason: 'not so' }).expect(200)
  expect((await table()).reopened).toEqual([scriptId])
  await lead('post', api(`/decisions/${decision.id}/withdraw`), { reason: 'not so' }).expect(200)
  expect((await table()).reopened).toEqual([])
})

test('one settled script is opened again by a decision, and no other', async () => {
  const { workings } = await table()
  const cells = standingRows(workings)
    .filter((s) => s.assessmentId === MAP && s.source === 'open')
    .slice(0, 2)
    .map((s) => s.cell)
  await decide(settleBy(workings, cells, { kind: 'mean' }, null))
  const [first, second] = cells.map((c) => workings.cells.scriptId(c))
  const opened = await decide([{ kind: 'reopen', scriptId: first }])
  expect(opened.summary).toBe('1 script of Map project opened again')
  const after = await table()
  expect([after.agreed[first!], after.agreed[second!] !== undefined, after.reopened]).toEqual([undefined, true, [first]])
  const again = await lead('post', api('/decisions'), { changes: [{ kind: 'reopen', scriptId: first }], reason: 'once more' }).expect(409)
  expect((again.body as { detail: string }).detail).toBe('That script is not settled (any more).')
  await lead('post', api(`/decisions/${opened.id}/withdraw`), { reason: 'not so' }).expect(200)
  expect((await table()).agreed[first!]).toBeDefined()
})

test('a standing rule settles scripts within tolerance in the table and in the sheet alike, and is withdrawn like any decision', async () => {
  const before = await table()
  const openMaps = (w: ReturnType<typeof workingsOf>) => standingRows(w).filter((s) => s.assessmentId === MAP && s.source === 'open')
  const decision = await decide([{ kind: 'agree by', assessmentId: MAP, rule: 'mean' }])
  expect(decision.summary).toBe('scripts of Map project within tolerance are settled by the mean, a person settles those beyond it')
  const after = await table()
  expect(after.agreeBy).toEqual({ [MAP]: 'mean' })
  const ruled = standingRows(after.workings).filter((s) => s.source === 'ruled')
  expect(ruled.length).toBeGreaterThan(0)
  expect(openMaps(after.workings).length).toBe(openMaps(before.workings).length - ruled.length)
  const sheet = sheetIn((await lead('get', api('/sheet')).expect(200)).body)
  for (const s of ruled)
    expect(sheet.cells.find((c) => c.studentId === s.studentId && c.assessmentId === MAP)?.fromReadings?.mark).toBe(s.mark)
  await lead('post', api(`/decisions/${decision.id}/withdraw`), { reason: 'not so' }).expect(200)
  expect(openMaps((await table()).workings)).toEqual(openMaps(before.workings))
})
