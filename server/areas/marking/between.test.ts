import { settleBy, standingRows, workingsOf } from '#core/trial'
import { unpackTable, type AgreedBetween, type DeskScript, type TableInColumns } from '#contract'
import { COURSE, api, demoServer } from '../../testing/serve'

const MAP = `${COURSE}-map`
const { server, lead } = demoServer()

const allow = (between: boolean) =>
  lead('put', api(`/assessments/${MAP}/blindness`), { blind: true, sees: { marks: false, comments: false, notes: false, between } }).expect(
    204,
  )
const workings = async () => workingsOf(unpackTable((await lead('get', api('/table')).expect(200)).body as TableInColumns))
const said = async () => (await lead('get', api('/between')).expect(200)).body as AgreedBetween[]

/** A script whose two readings lie over tolerance, with the desks of its readers. */
async function pair(nth: number) {
  const w = await workings()
  const rows = standingRows(w).filter((s) => s.assessmentId === MAP && s.source === 'open')
  const own = rows
    .map((s) => ({
      ...s,
      readings: server.db
        .prepare("SELECT marker_id AS markerId, mark FROM reading WHERE script_id = ? AND state = 'handed in' ORDER BY handed_in_at")
        .all(s.scriptId) as { markerId: string; mark: number }[],
    }))
    .filter((s) => Math.abs(s.readings[0]!.mark - s.readings[1]!.mark) > 9)[nth]!
  const desks = await Promise.all(
    own.readings.map(async ({ markerId }) => {
      const who = await server.as(server.db.prepare('SELECT sign_in FROM person WHERE id = ?').pluck().get(markerId) as string)
      await who('get', api(`/assessments/${MAP}/pile`)).expect(200)
      const id = server.db
        .prepare('SELECT id FROM blind_script WHERE assessment_id = ? AND student_id = ?')
        .pluck()
        .get(MAP, own.studentId) as string
      const path = api(`/assessments/${MAP}/pile/${id}`)
      return {
        see: async () => ((await who('get', path).expect(200)).body as DeskScript).between,
        seen: async () => ((await who('get', path).expect(200)).body as DeskScript).seen,
        propose: (mark: number, reason: string) => who('put', `${path}/between`, { mark, reason }),
        withdraw: () => who('delete', `${path}/between`),
        answer: (agrees: boolean, words = '') => who('put', `${path}/between/answer`, { agrees, words }),
      }
    }),
  )
  return { scriptId: own.scriptId, cell: own.cell, marks: own.readings.map((r) => r.mark), first: desks[0]!, second: desks[1]! }
}

test('where the lead does not allow it neither sees the other’s mark, and neither proposes', async () => {
  await allow(false)
  const { first } = await pair(0)
  expect(await first.see()).toBeNull()
  await first.propose(60, 'In the middle').expect(409)
})

test('both see both marks; one proposes with a reason, the other says why not, proposes, and is agreed with; the lead has it all', async () => {
  await allow(true)
  const { first, second, marks, scriptId, cell } = await pair(0)
  expect(await first.see()).toEqual({ other: marks[1], said: [], proposal: null })
  // What is taken back now is changed after that, and the desk has to say so.
  expect(await first.seen()).toBe(true)
  await first.propose(60, ' ').expect(422)
  await first.propose(101, 'High').expect(422)
  await first.propose(60, 'The relief is read too low').expect(204)
  await first.answer(true).expect(409)
  await second.propose(55, 'No').expect(409)
  expect(await second.see()).toMatchObject({ other: marks[0], proposal: { mine: false, mark: 60, agrees: null } })
  await second.answer(false).expect(422)
  await second.answer(false, 'The crag is lost').expect(204)
  await second.propose(58, 'Half for the crag').expect(204)
  await first.answer(true).expect(204)
  expect(await first.see()).toMatchObject({ proposal: { mine: false, mark: 58, agrees: true } })
  // All of it stays in sight, for both and for the lead.
  expect((await second.see())!.said.map((b) => [b.mine, b.mark, b.answer])).toEqual([
    [false, 60, 'The crag is lost'],
    [true, 58, ''],
  ])
  const ofScript = (await said()).filter((b) => b.scriptId === scriptId)
  expect(ofScript.map((b) => b.mark)).toEqual([60, 58])
  expect(ofScript.at(-1)).toMatchObject({
    mark: 58,
    reason: 'Half for the crag',
    agrees: true,
    holds: true,
  })
  expect(server.db.prepare('SELECT count(*) FROM between_two WHERE script_id = ?').pluck().get(scriptId)).toBe(2)
  // Nobody but the lead settles: until then it is open, and then there is nothing to agree on any more.
  const w = await workings()
  expect(standingRows(w).find((s) => s.cell === cell)?.source).toBe('open')
  const changes = settleBy(w, [cell], { kind: 'value', mark: 58, reason: 'Agreed between them' }, null)
  await lead('post', api('/decisions'), { changes, reason: 'as they agreed' }).expect(200)
  expect(await second.see()).toMatchObject({ other: null, proposal: null, said: [{ mark: 60 }, { mark: 58, agrees: true }] })
  expect((await first.answer(true).expect(409)).body).toMatchObject({ detail: 'The lead has settled this script meanwhile, at 58.' })
})

test('a proposal is withdrawn while it waits, and who agrees too late is told what happened', async () => {
  await allow(true)
  const { first, second, scriptId } = await pair(0)
  await second.withdraw().expect(409)
  await first.propose(60, 'In the middle').expect(204)
  await second.withdraw().expect(409)
  await first.withdraw().expect(204)
  expect(await second.see()).toMatchObject({ proposal: null, said: [{ mark: 60, withdrawn: true }] })
  expect((await second.answer(true).expect(409)).body).toMatchObject({ detail: 'The other reader has withdrawn that proposal meanwhile.' })
  // Now the other proposes, and is agreed with; a reading that changes ends that, and hides nothing.
  await second.propose(61, 'Nearly').expect(204)
  await first.answer(true).expect(204)
  await second.withdraw().expect(409)
  server.db
    .prepare(
      'UPDATE reading SET mark = mark - 0.5, version = version + 1 WHERE script_id = ? AND marker_id = (SELECT by_id FROM between_two WHERE script_id = ? AND mark = 61)',
    )
    .run(scriptId, scriptId)
  expect(await first.see()).toMatchObject({ proposal: null, said: [{ withdrawn: true }, { mark: 61, agrees: true, holds: false }] })
  expect((await first.answer(true).expect(409)).body).toMatchObject({
    detail: expect.stringMatching(/^One of the two readings has changed/) as string,
  })
})

test('nobody else sees what two say to each other, and the lead proposes nothing', async () => {
  await allow(true)
  const { scriptId } = await pair(0)
  const marker = await server.as('yuto.harrow')
  await marker('get', api('/between')).expect(403)
  const studentId = scriptId.split(':')[1]
  await lead('put', api(`/assessments/${MAP}/pile/${studentId}/between`), { mark: 60, reason: 'So' }).expect(403)
})
