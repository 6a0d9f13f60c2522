import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import readBook from 'read-excel-file/node'
import { parse } from 'csv-parse/sync'
import { countedMark, issuedMark } from '#core/issues'
import { settleBy, standingRows, workingsOf } from '#core/trial'
import { MAKING_STEPS, unpackTable, type Decision, type IssueContent, type IssueHead, type TableInColumns } from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'
import { takenOut } from '../../testing/taken-out'
import { resultsCsv } from './results-files'

const { server, lead } = demoServer()
let external: Client
beforeAll(async () => {
  external = await server.as('tamsin.oyelaran.holt')
}, 60_000)

const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail

test('what blocks is said, with how many and where', async () => {
  const answer = await lead('post', api('/issues'), { statement: 'all is well' }).expect(409)
  expect(detail(answer)).toMatch(/^Not yet: \d\d open at reconcile\. Clear these first\.$/)
})

test('signed, frozen, countersigned once by another, reopened, and the next issue beside it', async () => {
  const t = unpackTable((await lead('get', api('/table'))).body as TableInColumns)
  const w = workingsOf(t)
  const open = standingRows(w).filter((s) => s.source === 'open')
  const settled = (
    await lead('post', api('/decisions'), {
      changes: settleBy(
        w,
        open.map((s) => s.cell),
        { kind: 'mean' },
        0.5,
      ),
      reason: 'tried',
    }).expect(200)
  ).body as Decision

  const listener = await server.listen('tamsin.oyelaran.holt')
  await listener.until((heard) => heard.includes('\n\n'))
  const head = (await lead('post', api('/issues'), { statement: 'moderated' }).expect(200)).body as IssueHead
  const told = await listener.until((heard) => heard.includes(MAKING_STEPS.at(-1)!))
  listener.end()
  expect([...told.matchAll(/event: making\ndata: (.+)\n/g)].map((m) => m[1])).toEqual([...MAKING_STEPS])
  expect(head).toMatchObject({ number: 1, signatures: [{ by: 'Ines Valdry', role: 'lead' }], reopened: null })
  const content = (await external('get', api('/issues/1')).expect(200)).body as IssueContent
  expect(content.results).toHaveLength(120)

  const sorted = (v: unknown): unknown =>
    Array.isArray(v)
      ? v.map(sorted)
      : v && typeof v === 'object'
        ? Object.fromEntries(
            Object.entries(v)
              .sort(([a], [b]) => (a < b ? -1 : 1))
              .map(([k, x]) => [k, sorted(x)]),
          )
        : v
  expect(head.hash).toBe(
    createHash('sha256')
      .update(JSON.stringify(sorted(content)))
      .digest('hex'),
  )
  // The file alone is enough: its bytes are what was hashed.
  const json = await external('get', api('/issues/1/results.json'))
    .expect(200)
    .buffer(true)
    .parse((res, done) => {
      const sum = createHash('sha256')
      res.on('data', (part: Buffer) => sum.update(part))
      res.on('end', () => done(null, sum.digest('hex')))
    })
  expect(json.body).toBe(head.hash)
  // Laid out anew, and with its parts in another order, it is put in canonical form first.
  const copy = join(dirname(server.file), 'copy.json')
  writeFileSync(copy, JSON.stringify(Object.fromEntries(Object.entries(content).reverse()), null, 2))
  expect(execFileSync(process.execPath, ['scripts/hash.mjs', copy], { encoding: 'utf8' }).trim()).toBe(head.hash)

  expect(head).toMatchObject({ inForce: false, waitsFor: ['external'] })
  const other = 'a'.repeat(64)
  expect(detail(await external('post', api('/issues/1/signatures'), { statement: 'comparable', hash: other }).expect(409))).toMatch(
    /not what stands in this issue/,
  )
  await external('post', api('/issues/1/signatures'), { statement: 'comparable', hash: head.hash }).expect(200)
  expect(detail(await external('post', api('/issues/1/signatures'), { statement: 'again', hash: head.hash }).expect(409))).toMatch(
    /signed this issue already/,
  )

  const frozen = {
    cells: [{ studentId: `${COURSE}-student-1`, assessmentId: `${COURSE}-pacing`, version: 1, mark: 3, status: 'in', daysLate: 0 }],
  }
  expect(detail(await lead('patch', api('/sheet'), frozen).expect(409))).toMatch(/Issue 1 is confirmed\. Reopen/)
  await lead('post', api(`/decisions/${settled.id}/withdraw`), { reason: 'tried' }).expect(409)
  expect(() => server.db.exec("UPDATE issue SET hash = 'x'")).toThrow(/never changes/)
  expect(() => server.db.exec('DELETE FROM issue')).toThrow(/never deleted/)

  await lead('post', api('/reopen'), { reason: 'an appeal' }).expect(200)
  await lead('post', api('/reopen'), { reason: 'again' }).expect(409)
  await lead('patch', api('/sheet'), frozen).expect(200)
  const second = (await lead('post', api('/issues'), { statement: 'after the appeal' }).expect(200)).body as IssueHead
  expect(second.number).toBe(2)
  expect(second.hash).not.toBe(head.hash)
  expect((await lead('get', api('/issues/1'))).body).toEqual(content)
  const heads = (await lead('get', api('/issues'))).body as IssueHead[]
  expect(heads.map((h) => [h.number, h.reopened?.reason ?? null])).toEqual([
    [2, null],
    [1, 'an appeal'],
  ])
})

test('CSV and workbook say the same, row for row', async () => {
  const head = ((await lead('get', api('/issues'))).body as IssueHead[]).find((h) => h.number === 1)!
  const content = (await lead('get', api('/issues/1'))).body as IssueContent
  const csv = parse((await lead('get', api('/issues/1/results.csv')).expect(200)).text, { bom: true, columns: true }) as Record<
    string,
    string
  >[]
  const answer = await takenOut(lead, '/issues/1/results.xlsx')
  const sheets = await readBook(answer.body)
  const sheet = sheets.find((s) => s.sheet === 'Issue 1')!.data
  expect(csv).toHaveLength(content.results.length)
  content.results.forEach((r, i) => {
    expect(csv[i]).toMatchObject({ candidate: r.candidate, grade: r.grade ?? '', rounded: r.rounded === null ? '' : String(r.rounded) })
    expect(sheet[i + 1]![0]).toBe(r.candidate)
    expect(sheet[i + 1]![sheet[0]!.indexOf('grade')]).toBe(r.grade)
    expect(csv[i]!['content hash']).toBe(head.hash)
    content.assessments!.forEach((a, k) => {
      const m = issuedMark(r.marks![k]!)
      const counts = m && countedMark(m, a.outOf, content.policy).counts
      const of = (column: string) => csv[i]![`${a.title}${column}`]!
      expect(of('')).toBe(counts === null ? '' : String(Number(counts.toFixed(3))))
      const parts = [of(': as marked'), of(': by rescaling'), of(': for lateness')].map(Number)
      if (of(': as marked') !== '') expect(parts.reduce((sum, x) => sum + x, 0)).toBeCloseTo(counts!, 2)
    })
  })
})

test('a name that a spreadsheet would run as a formula stays a name', async () => {
  const content = (await lead('get', api('/issues/1'))).body as IssueContent
  const issue = { hash: 'h', at: '', signatures: [], objections: [] }
  const csv = resultsCsv({ ...content, results: [{ ...content.results[0]!, name: '=HYPERLINK("http://x")' }] }, issue)
  expect(csv).toContain(`"'=HYPERLINK(""http://x"")"`)
})
