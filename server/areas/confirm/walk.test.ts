import { createHash } from 'node:crypto'
import canonicalize from 'canonicalize'
import { seeded } from '#core/share'
import { gradeWorkings, workingsOf } from '#core/trial'
import { routes, unpackTable, type Change, type Decision, type IssueContent, type IssueHead, type TableInColumns } from '#contract'
import { planLoader } from '../../kernel/course/load-plan'
import { tableLoader } from '../../kernel/course/load-table'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

const { server, lead } = demoServer()
let external: Client
beforeAll(async () => {
  external = await server.as('tamsin.oyelaran.holt')
  // Nothing waits to be settled, so that a walk can confirm at any time.
  server.db
    .prepare(
      "UPDATE reading SET state = 'draft' WHERE script_id IN (SELECT r.script_id FROM reading r GROUP BY r.script_id HAVING count(*) > 1)",
    )
    .run()
  server.db.prepare('UPDATE assessment SET readings_wanted = 1 WHERE course_id = ?').run(COURSE)
  server.db.prepare('UPDATE course SET version = version + 1, plan_version = plan_version + 1 WHERE id = ?').run(COURSE)
}, 60_000)

const tableNow = async () => unpackTable((await lead('get', api('/table')).expect(200)).body as TableInColumns)
const hashOf = (content: IssueContent) => createHash('sha256').update(canonicalize(content)!).digest('hex')

test('whatever is decided, withdrawn, confirmed and reopened: the grades are those worked out from scratch, and every issue stays what it was', async () => {
  const random = seeded(17)
  const one = <T>(list: readonly T[]): T => list[random.below(list.length)]!
  const frozen = new Map<number, string>()
  let [confirmed, withdrawn] = [0, 0]
  for (let step = 0; step < 30; step++) {
    const table = await tableNow()
    const open = table.head.confirmedIssue === null
    const limit = (grade: string) => table.boundaries.find((b) => b.grade === grade)!.from
    const change = (): Change => {
      const component = one(table.components.filter((c) => !c.bonus))
      switch (random.below(3)) {
        case 0: {
          const merit = Math.min(limit('Distinction') - 1, Math.max(limit('Credit') + 1, limit('Merit') + random.below(9) / 2 - 2))
          return {
            kind: 'bound',
            boundaries: table.boundaries.map((b) => (b.grade === 'Merit' ? { ...b, from: merit } : b)),
            over: table.boundaries,
          }
        }
        case 1:
          return {
            kind: 'condition',
            conditionId: `c${random.below(3)}`,
            condition:
              random.below(4) === 0
                ? null
                : { componentId: component.id, least: 40 + random.below(30), atMost: one(['Credit', 'Pass', 'Refer']) },
          }
        default:
          return { kind: 'weigh', componentId: component.id, weight: 5 + random.below(40) }
      }
    }
    if (!open) {
      if (random.below(2) === 0) {
        const head = ((await external('get', api('/issues'))).body as IssueHead[])[0]!
        if (head.waitsFor.length > 0)
          await external('post', api(`/issues/${head.number}/signatures`), { statement: 'seen', hash: head.hash }).expect(200)
        await lead('post', api('/decisions'), { changes: [change()], reason: 'too late' }).expect(409)
      } else await lead('post', api('/reopen'), { reason: 'once more' }).expect(200)
    } else if (random.below(5) === 0) {
      const head = (await lead('post', api('/issues'), { statement: `step ${step}` }).expect(200)).body as IssueHead
      frozen.set(head.number, head.hash)
      confirmed++
    } else if (random.below(4) === 0) {
      const list = ((await lead('get', api('/decisions'))).body as Decision[]).filter(
        (d) => !d.withdrawn && !['confirm', 'reopen'].includes(d.kind),
      )
      // One that other lines rest on is refused with a sentence.
      if (list.length > 0 && (await lead('post', api(`/decisions/${one(list).id}/withdraw`), { reason: 'after all not' })).status === 200)
        withdrawn++
    } else await lead('post', api('/decisions'), { changes: [change()], reason: `step ${step}` })

    const scratch = workingsOf(tableLoader(server.db, planLoader(server.db)).load(COURSE))
    expect(gradeWorkings(workingsOf(await tableNow())).students).toEqual(gradeWorkings(scratch).students)
    for (const [number, hash] of frozen) {
      const content = (await lead('get', api(`/issues/${number}`)).expect(200)).body as IssueContent
      expect(hashOf(content)).toBe(hash)
    }
  }
  expect([confirmed > 1, withdrawn > 0]).toEqual([true, true])
}, 90_000)

test('no route that writes changes an issue', async () => {
  const { number, hash } = ((await lead('get', api('/issues')).expect(200)).body as IssueHead[])[0]!
  const ids: Record<string, string> = { courseId: COURSE, number: String(number) }
  for (const route of Object.values(routes)) {
    if (route.method === 'GET' || !route.path.startsWith('/api/courses/:courseId')) continue
    const path = route.path.replace(/:(\w+)/g, (_, name: string) => ids[name] ?? 'none')
    const answer = await lead(route.method.toLowerCase() as 'post', path, {})
    expect([path, answer.status >= 500 && answer.status !== 503]).toEqual([path, false])
  }
  expect(hashOf((await lead('get', api(`/issues/${number}`)).expect(200)).body as IssueContent)).toBe(hash)
})
