import { settleBy, standingRows, workingsOf } from '#core/trial'
import { unpackTable, type Change, type Decision, type TableInColumns } from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

const { server, lead } = demoServer()
let other: Client
beforeAll(async () => {
  server.db.prepare("UPDATE course_role SET role = 'lead' WHERE course_id = ? AND person_id = 'marker-1'").run(COURSE)
  const signIn = server.db.prepare("SELECT sign_in FROM person WHERE id = 'marker-1'").pluck().get() as string
  other = await server.as(signIn)
})

const table = async () => unpackTable((await lead('get', api('/table')).expect(200)).body as TableInColumns)
const adopt = (who: Client, changes: Change[], since?: (number | null)[]) =>
  who('post', api('/decisions'), { changes, reason: 'as we agreed', ...(since && { since }) })
/** Two scripts that wait, each with what settles it by the rule. */
const waiting = async (kind: 'mean' | 'highest') => {
  const w = workingsOf(await table())
  const open = standingRows(w).filter((s) => s.assessmentId === `${COURSE}-map` && s.source === 'open')
  return settleBy(
    w,
    open.slice(0, 2).map((s) => s.cell),
    { kind },
    0.5,
  )
}

test('what another lead settled meanwhile is not replaced unseen: it is said by whom and at what, and can be replaced or left', async () => {
  const { version } = await table()
  const mine = await waiting('highest')
  const theirs = (await waiting('mean'))[0]!
  await adopt(other, [theirs]).expect(200)
  const refused = await adopt(lead, mine, [version, version]).expect(409)
  const mark = (theirs as { mark: number }).mark
  expect(refused.body).toMatchObject({
    detail: '1 of these was decided meanwhile. Replace it, or leave it as decided.',
    current: {
      courseVersion: version + 1,
      decided: [{ place: 0, words: expect.stringMatching(new RegExp(`settled by the mean, at ${mark}; \\S`)) as string }],
    },
  })
  // Left: the other one is adopted.
  await adopt(lead, [mine[1]!], [version]).expect(200)
  // Replaced: tried on what is there now.
  await adopt(lead, [mine[0]!], [version + 1]).expect(200)
})

test('the same again is no replacement, and what was made and taken back meanwhile is as if it had never been', async () => {
  const { version } = await table()
  const componentId = (await table()).components[0]!.id
  const of = (weight: number): Change => ({ kind: 'weigh', componentId, weight })
  const made = (await adopt(other, [of(31)]).expect(200)).body as Decision
  await adopt(lead, [of(31)], [version]).expect(200)
  await adopt(lead, [of(32)], [version]).expect(409)
  const own = (await table()).version
  await other('post', api(`/decisions/${made.id}/withdraw`), { reason: 'a slip' }).expect(200)
  // It was there when this was tried, and is taken back by now.
  expect((await adopt(lead, [of(33)], [own]).expect(409)).body).toMatchObject({
    current: { decided: [{ words: expect.stringContaining('taken back by') as string }] },
  })
  const before = (await table()).version
  const slip = (await adopt(other, [of(40)]).expect(200)).body as Decision
  await other('post', api(`/decisions/${slip.id}/withdraw`), { reason: 'a slip' }).expect(200)
  await adopt(lead, [of(34)], [before]).expect(200)
})

test('two lines of one set, and two parts of one rule, do not meet', async () => {
  const t = await table()
  const { boundaries, policy, version } = t
  const moved = (at: number, by: number): Change => ({
    kind: 'bound',
    boundaries: boundaries.map((b, i) => (i === at ? { ...b, from: b.from + by } : b)),
    over: boundaries,
  })
  await adopt(other, [moved(0, 1)]).expect(200)
  await adopt(lead, [moved(1, 1)], [version]).expect(200)
  await adopt(lead, [moved(0, -1)], [version]).expect(409)
  const rule = (patch: Partial<typeof policy>): Change => ({ kind: 'policy', policy: { ...policy, ...patch }, over: policy })
  await adopt(other, [rule({ missing: { kind: 'pending' } })]).expect(200)
  await adopt(lead, [rule({ absent: { kind: 'zero' } })], [version]).expect(200)
  await adopt(lead, [rule({ missing: { kind: 'floor', percent: 10 } })], [version]).expect(409)
})

test('a trial keeps what it was tried on', async () => {
  const trial = { changes: await waiting('mean'), since: [7, null], version: 0 }
  const { version } = (await other('put', api('/trial'), trial).expect(200)).body as { version: number }
  expect((await other('get', api('/trial')).expect(200)).body).toEqual({ ...trial, version })
})
