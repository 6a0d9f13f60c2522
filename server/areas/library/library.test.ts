import { strToU8, zipSync } from 'fflate'
import type { Assessment, Library, LibraryFile, RubricBody, Standard } from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'
import { CasePackage } from '../../testing/case-1-1'

const { server, lead } = demoServer()
let marker: Client
beforeAll(async () => {
  marker = await server.as('rune.daal')
}, 60_000)

const library = async () => (await lead('get', api('/library')).expect(200)).body as Library
const rubricOf = async (id: string) => (await library()).rubrics.find((r) => r.id === id)!
const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
const body = (words = 'all of it'): RubricBody => ({
  criteria: [
    {
      id: 'c1',
      title: 'Purpose',
      ranges: false,
      penalty: false,
      levels: [
        { points: 0, words: 'none' },
        { points: 4, words },
      ],
    },
  ],
})
const made = async (title = 'Voice') =>
  (
    (await lead('post', api('/library'), { standard: { kind: 'rubric', title, body: body() }, source: null }).expect(200)).body as {
      id: string
    }
  ).id
const put = (id: string, revision: number, standard: Standard) => lead('put', api(`/library/${id}`), { revision, standard })

test('made as a draft of one’s own, edited in place, titles kept apart', async () => {
  const id = await made()
  expect(await rubricOf(id)).toMatchObject({ title: 'Voice', state: 'draft', version: 1, revision: 1, read: false, uses: [] })
  expect((await rubricOf(await made())).title).toBe('Voice 2')
  const edited = await put(id, 1, { kind: 'rubric', title: 'Voice', body: body('clear throughout') }).expect(200)
  expect(edited.body).toEqual({ id, revision: 2 })
  expect((await rubricOf(id)).criteria[0]!.levels[1]!.words).toBe('clear throughout')
  expect(detail(await put(id, 1, { kind: 'rubric', title: 'Voice', body: body('late') }).expect(409))).toBe('Voice was changed meanwhile.')
})

test('an edit that is sent again, since its answer was lost, is not made twice', async () => {
  const id = await made('Twice')
  const edit: Standard = { kind: 'rubric', title: 'Twice', body: body('once') }
  for (let i = 0; i < 2; i++) expect((await put(id, 1, edit).expect(200)).body).toEqual({ id, revision: 2 })
  await put(id, 1, { ...edit, title: 'Thrice' }).expect(409)
})

test('a version that readings use never changes: the edit makes the next, and what is in use stays listed', async () => {
  const before = await rubricOf('rubric-map')
  const { criteria } = before
  const changed = criteria.map((c, i) => (i === 0 ? { ...c, title: 'Reader and purpose' } : c))
  const answer = await put('rubric-map', before.revision, { kind: 'rubric', title: before.title, body: { criteria: changed } }).expect(200)
  const { id, revision } = answer.body as { id: string; revision: number }
  const again = await put('rubric-map', before.revision, { kind: 'rubric', title: before.title, body: { criteria: changed } }).expect(200)
  expect(again.body).toEqual(answer.body)
  expect(id).not.toBe('rubric-map')
  expect(revision).toBe(1)
  const next = await rubricOf(id)
  expect(next).toMatchObject({ version: 2, state: 'draft', read: false, superseded: false })
  expect(next.uses.map((u) => u.assessmentId)).toContain(`${COURSE}-map`)
  const old = await rubricOf('rubric-map')
  expect(old.superseded).toBe(true)
  expect(old.criteria).toEqual(criteria)
  expect(detail(await put('rubric-map', before.revision, { kind: 'rubric', title: 'x', body: body() }).expect(409))).toMatch(
    /newer version/,
  )
  expect(() => server.db.prepare("UPDATE standard SET body = '{}' WHERE id = 'rubric-map'").run()).toThrow('never changes')
})

test('what typed marks are called never changes under them, in whichever course: the edit makes the next version', async () => {
  const labels = [
    { label: 'Fail', percent: 0, threshold: 0 },
    { label: 'Pass', percent: 60, threshold: 0.5 },
  ]
  const standard = { kind: 'scale' as const, title: 'Pass or fail', body: { labels } }
  const { id } = (await lead('post', api('/library'), { standard, source: null }).expect(200)).body as { id: string }
  const edit = (from: number) => ({ ...standard, body: { labels: [labels[0]!, { ...labels[1]!, threshold: from }] } })
  expect((await put(id, 1, edit(0.4)).expect(200)).body).toMatchObject({ id })
  const other = 'cfs118-2026'
  const assessment = server.db
    .prepare<[string], { id: string }>(
      `SELECT a.id FROM assessment a WHERE a.course_id = ? AND EXISTS (SELECT 1 FROM script s WHERE s.assessment_id = a.id AND s.entered IS NOT NULL)
         AND NOT EXISTS (SELECT 1 FROM script s JOIN reading r ON r.script_id = s.id WHERE s.assessment_id = a.id) LIMIT 1`,
    )
    .get(other)!
  server.db.prepare("UPDATE assessment SET standard_id = ?, marking = 'judgement' WHERE id = ?").run(id, assessment.id)
  const answer = (await put(id, 2, edit(0.6)).expect(200)).body as { id: string }
  expect(answer.id).not.toBe(id)
  expect(server.db.prepare("SELECT body ->> '$.labels[1].threshold' FROM standard WHERE id = ?").pluck().get(id)).toBe(0.4)
  expect(server.db.prepare('SELECT standard_id FROM assessment WHERE id = ?').pluck().get(assessment.id)).toBe(id)
})

test('what is another’s is copied, not changed', async () => {
  const scheme = (await library()).schemes.find((s) => s.owner !== 'Ines Valdry')!
  const edit = { kind: 'scheme', title: 'Mine', body: { criteria: scheme.criteria } } as const
  expect(detail(await put(scheme.id, scheme.revision, edit).expect(403))).toMatch(/is Tadesse Abara’s\. Take a copy/)
  const copy = (await lead('post', api(`/library/${scheme.id}/copies`)).expect(200)).body as { id: string }
  const own = (await library()).schemes.find((s) => s.id === copy.id)!
  expect(own).toMatchObject({ title: 'Field book 2', owner: 'Ines Valdry', state: 'draft' })
  expect(own.criteria).toEqual(scheme.criteria)
})

test('attached, it is in use; where there are readings, or it cannot give a mark, or is retired, it is refused', async () => {
  const id = await made('Talk')
  const a = (
    await lead('post', api('/assessments'), {
      componentId: `${COURSE}-c-viva`,
      title: 'Talk',
      marking: 'direct',
      outOf: 10,
      worth: 10,
      placed: true,
    }).expect(200)
  ).body as Assessment
  const attach = (assessmentId: string, version: number, standardId: string | null) =>
    lead('put', api(`/assessments/${assessmentId}/standard`), { version, standardId })
  const done = (await attach(a.id, a.version, id).expect(200)).body as Assessment
  expect(done).toMatchObject({ standardId: id, marking: 'rubric' })
  expect((await rubricOf(id)).uses).toEqual([expect.objectContaining({ assessmentId: a.id, outOf: 10 })])
  const map = server.db.prepare('SELECT version FROM assessment WHERE id = ?').get(`${COURSE}-map`) as { version: number }
  expect((await rubricOf('rubric-map')).uses[0]).toMatchObject({ hidesPoints: false, hidesWords: false })
  expect(detail(await attach(`${COURSE}-map`, map.version, id).expect(409))).toMatch(/^Map project has \d+ readings already/)
  const empty = (
    (await lead('post', api('/library'), { standard: { kind: 'rubric', title: 'Empty', body: { criteria: [] } }, source: null })).body as {
      id: string
    }
  ).id
  expect(detail(await attach(a.id, done.version, empty).expect(422))).toBe('Empty has no criterion yet.')
  expect(detail(await lead('put', api(`/library/${empty}/state`), { state: 'ready' }).expect(422))).toBe('Empty has no criterion yet.')
  await lead('put', api(`/library/${id}/state`), { state: 'retired' }).expect(204)
  expect(detail(await attach(a.id, done.version, id).expect(409))).toMatch(/Talk is retired/)
})

test('taken out as CSV and as CASE, it reads back as the same', async () => {
  const { criteria } = await rubricOf('rubric-map')
  const plain = criteria.map(({ id: _, ...c }) => c)
  const file = async (text: string) =>
    (await lead('post', api('/library-files'), { file: Buffer.from(text).toString('base64') }).expect(200)).body as LibraryFile
  const csv = await file((await lead('get', api('/library/rubric-map/table.csv')).expect(200)).text)
  const levels = (list: typeof plain) =>
    list.map((c) => [c.title, c.penalty, c.levels.map((l) => [l.points, l.to === l.points ? undefined : l.to, l.words])])
  expect(levels(csv.rubrics[0]!.criteria)).toEqual(levels(plain))
  const answer = await lead('get', api('/library/rubric-map/case.json')).expect(200)
  const back = await file(JSON.stringify(answer.body))
  expect(levels(back.rubrics[0]!.criteria)).toEqual(levels(plain))
  const package_ = answer.body as { CFDocument: { caseVersion: string; identifier: string } }
  expect(package_.CFDocument.caseVersion).toBe('1.1')
  // The pattern of the 1.1 schema.
  expect(package_.CFDocument.identifier).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-[1-5][0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/)
})

test('every entry goes out as a CASE package by its data model, and comes in again as what it is', async () => {
  const { rubrics, schemes, scales, outcomes } = await library()
  const all = { rubrics, schemes, scales, outcomes }
  for (const [kind, entries] of Object.entries(all)) {
    const [entry] = entries.filter((e) => !e.superseded)
    const { body } = await lead('get', api(`/library/${entry!.id}/case.json`)).expect(200)
    expect({ kind, problems: CasePackage.safeParse(body).error?.issues ?? [] }).toEqual({ kind, problems: [] })
    const sent = { file: Buffer.from(JSON.stringify(body)).toString('base64') }
    const back = (await lead('post', api('/library-files'), sent).expect(200)).body as LibraryFile
    expect({
      rubrics: back.rubrics.map((r) => r.known?.same),
      schemes: back.others.filter((o) => o.standard.kind === 'scheme').map((o) => o.known?.same),
      scales: back.others.filter((o) => o.standard.kind === 'scale').map((o) => o.known?.same),
    }).toEqual({ rubrics: [], schemes: [], scales: [], ...(kind === 'outcomes' ? {} : { [kind]: [true] }) })
    if (kind === 'outcomes') expect(back.outcomes.map((o) => o.known)).toEqual([entry!.id])
  }
})

test('a file that was taken out of here, or brought in before, is recognised when it comes again', async () => {
  const file = async (content: object) =>
    (await lead('post', api('/library-files'), { file: Buffer.from(JSON.stringify(content)).toString('base64') }).expect(200))
      .body as LibraryFile
  const newest = (await library()).rubrics.find((r) => !r.superseded && r.lineId === 'rubric-map')!
  const out = (await lead('get', api(`/library/${newest.id}/case.json`)).expect(200)).body as object
  const back = await file(out)
  expect(back.rubrics[0]!.known).toMatchObject({ id: newest.id, same: true })
  expect(back.outcomes.map((o) => o.known)).not.toContain(null)
  const theirs = (words: string) => ({
    CFRubrics: [
      {
        identifier: '11111111-1111-4111-8111-111111111111',
        title: 'Theirs',
        CFRubricCriteria: [
          {
            category: 'Aim',
            CFRubricCriterionLevels: [
              { score: 0, description: 'none' },
              { score: 2, description: words },
            ],
          },
        ],
      },
    ],
  })
  const first = await file(theirs('all'))
  expect(first.rubrics[0]!.known).toBeNull()
  const { criteria, source } = first.rubrics[0]!
  const standard = { kind: 'rubric', title: 'Theirs', body: { criteria } }
  const { id } = (await lead('post', api('/library'), { standard, source }).expect(200)).body as { id: string }
  expect((await file(theirs('all'))).rubrics[0]!.known).toEqual({ id, title: 'Theirs', same: true })
  expect((await file(theirs('most'))).rubrics[0]!.known).toEqual({ id, title: 'Theirs', same: false })
})

test('a table in a document is found; a document without one, a damaged one and any other file get a sentence', async () => {
  const send = (bytes: Uint8Array) => lead('post', api('/library-files'), { file: Buffer.from(bytes).toString('base64') })
  const docx = (inside: string) =>
    zipSync({
      '[Content_Types].xml': strToU8(
        '<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
      ),
      '_rels/.rels': strToU8(
        '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>',
      ),
      'word/document.xml': strToU8(
        `<?xml version="1.0"?><w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>${inside}</w:body></w:document>`,
      ),
    })
  const cell = (text: string) => `<w:tc><w:p><w:r><w:t>${text}</w:t></w:r></w:p></w:tc>`
  const row = (...cells: string[]) => `<w:tr>${cells.map(cell).join('')}</w:tr>`
  const found = (await send(docx(`<w:p/><w:tbl>${row('', 'Weak (1)', 'Strong (4)')}${row('Voice', 'flat', 'rich')}</w:tbl>`)).expect(200))
    .body as LibraryFile
  expect(found.tables).toEqual([
    [
      ['', 'Weak (1)', 'Strong (4)'],
      ['Voice', 'flat', 'rich'],
    ],
  ])
  expect(detail(await send(docx('<w:p/>')).expect(422))).toBe('The document holds no table.')
  expect(detail(await send(docx('<w:tbl>').slice(0, 200)).expect(422))).toMatch(/breaks off/)
  expect(detail(await send(strToU8('{"CFItems":[]}')).expect(422))).toMatch(/holds no rubric/)
  expect(detail(await send(zipSync({ 'a.txt': strToU8('x') })).expect(422))).toMatch(
    /archive of other files\. What is read here: .* a document \(DOCX\)/,
  )
})

test('markers read the library and change nothing in it', async () => {
  await marker('get', api('/library')).expect(200)
  await marker('post', api('/library'), { standard: { kind: 'rubric', title: 'x', body: body() }, source: null }).expect(403)
})

test('what is in use is not emptied', async () => {
  const { schemes, scales } = await library()
  const empty = async (
    { id, revision, title }: { id: string; revision: number; title: string },
    kind: 'scheme' | 'scale',
    body: object,
  ) => {
    server.db.prepare("UPDATE standard SET owner_id = 'lead' WHERE id = ?").run(id)
    return put(id, revision, { kind, title, body } as Standard)
  }
  const inUse = (s: { uses: unknown[]; superseded: boolean }) => s.uses.length > 0 && !s.superseded
  const scheme = await empty(schemes.find(inUse)!, 'scheme', { criteria: [] })
  expect([scheme.status, detail(scheme)]).toEqual([409, expect.stringMatching(/is in use: leave it at least one criterion/)])
  const scale = await empty(scales.find(inUse)!, 'scale', { labels: [] })
  expect([scale.status, detail(scale)]).toEqual([409, expect.stringMatching(/at least one label/)])
  // Of what nobody uses, everything may go.
  const draft = await made('Nobody’s')
  await put(draft, 1, { kind: 'rubric', title: 'Nobody’s', body: { criteria: [] } }).expect(200)
})

describe('what is too large', () => {
  test('500 levels, and 61 criteria, are refused with the limit', async () => {
    const levels = Array.from({ length: 500 }, (_, i) => ({ points: i, words: `level ${i}` }))
    const many = { criteria: [{ ...body().criteria[0]!, levels }] }
    const refused = await lead('post', api('/library'), { standard: { kind: 'rubric', title: 'Long', body: many }, source: null }).expect(
      422,
    )
    expect(detail(refused)).toContain('At most 60 levels.')
    const wide = { criteria: Array.from({ length: 61 }, (_, i) => ({ ...body().criteria[0]!, id: `c${i}` })) }
    expect(
      detail(await lead('post', api('/library'), { standard: { kind: 'rubric', title: 'Wide', body: wide }, source: null }).expect(422)),
    ).toContain('At most 60 criteria.')
  })

  test('a document of 20 MB is refused with a sentence, before it is read', async () => {
    const answer = await lead('post', api('/library-files'), { file: 'A'.repeat(27_000_000) })
    expect(answer.status).toBe(413)
    expect(detail(answer)).toMatch(/too large|over/i)
  })
})
