import {
  unpackTable,
  type Change,
  type Decision,
  type DeskScript,
  type Library,
  type PileScript,
  type Plan,
  type RubricVersion,
  type ScriptDetail,
  type TableInColumns,
} from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'

const { server, lead } = demoServer()
let marker: Client
beforeAll(async () => {
  marker = await server.as('rune.daal')
}, 60_000)

const MAP = `${COURSE}-map`
interface Carried {
  changes: Change[]
  carried: number
  moved: number
  settled: number
  left: { why: string }[]
  nearest: { changes: Change[]; carried: number; at: { why: string }[] } | null
}
const rubrics = async () => ((await lead('get', api('/library')).expect(200)).body as Library).rubrics
const rubricOf = async (id: string) => (await rubrics()).find((r) => r.id === id)!
const table = async () => unpackTable((await lead('get', api('/table')).expect(200)).body as TableInColumns)
const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
const carriedTo = async (id: string) => (await lead('get', api(`/assessments/${MAP}/carried/${id}`)).expect(200)).body as Carried
const attach = async (standardId: string, status = 200) => {
  const { assessments } = (await lead('get', api('/plan')).expect(200)).body as Plan
  const { version } = assessments.find((a) => a.id === MAP)!
  return lead('put', api(`/assessments/${MAP}/standard`), { version, standardId }).expect(status)
}

test('a version made after marking has begun: attached, compared, carried over as a trial, and taken back', async () => {
  const before = await rubricOf('rubric-map')
  const { criteria, bands } = before
  // Relief’s third level is worth half a point more.
  const changed = criteria.map((c) =>
    c.id === 'relief' ? { ...c, levels: c.levels.map((l, i) => (i === 2 ? { ...l, points: 8.5 } : l)) } : c,
  )
  const standard = { kind: 'rubric', title: before.title, body: { criteria: changed, bands } }
  const edited = await lead('put', api('/library/rubric-map'), { revision: before.revision, standard }).expect(200)
  const next = (edited.body as { id: string }).id

  const versions = (await lead('get', api(`/library/${next}/versions`)).expect(200)).body as RubricVersion[]
  expect(versions.map((v) => [v.version, v.readings > 0])).toEqual([
    [2, false],
    [1, true],
  ])

  await attach(next)
  const use = (await rubricOf(next)).uses.find((u) => u.assessmentId === MAP)!
  const raw = await table()
  const ofMap = Array.from(raw.readings.script).filter((s) => raw.assessments[raw.scripts.assessment[s]!]!.id === MAP).length
  expect(use).toMatchObject({ version: 2, behind: ofMap })
  expect(detail(await attach('scheme-field-book', 409))).toMatch(/has \d+ readings already/)

  const { changes, carried, moved, settled, left } = await carriedTo(next)
  expect([carried, left]).toEqual([ofMap, []])
  const [carry] = changes
  if (carry?.kind !== 'carry') throw new Error('nothing is carried')
  const relief = carry.readings.filter((r) => r.picks.relief === 8.5)
  expect(relief).toHaveLength(moved)
  expect(moved).toBeGreaterThan(0)
  expect(settled).toBe(changes.length - 1)

  const decision = (await lead('post', api('/decisions'), { changes, reason: 'The level was too low' }).expect(200)).body as Decision
  expect(decision.kind).toBe('reconcile')
  expect(decision.summary).toContain(`${ofMap} readings of Map project carried over to another version`)
  const one = relief[0]!
  const script = (await lead('get', api(`/scripts/${encodeURIComponent(one.scriptId)}`)).expect(200)).body as ScriptDetail
  const reading = script.readings.find((r) => r.markerId === one.markerId)!
  expect(reading).toMatchObject({ mark: one.mark, picks: one.picks, madeMark: one.mark - 1.25 })
  expect((await rubricOf(next)).uses.find((u) => u.assessmentId === MAP)!.behind).toBe(0)
  expect(await carriedTo(next)).toEqual({ changes: [], carried: 0, moved: 0, settled: 0, left: [], nearest: null })

  // What readings were carried over to stays as it is, too.
  expect((await rubricOf(next)).read).toBe(true)
  expect(() => server.db.prepare("UPDATE standard SET body = '{}' WHERE id = ?").run(next)).toThrow('never changes')

  // Settled after it, a script is open again once its readings are what they were before; the record says over which it was settled.
  const rule = { kind: 'value', mark: 14, reason: 'after the carry-over' }
  const after: Change[] = [{ kind: 'settle', scriptId: one.scriptId, rule, step: null, mark: 14 } as Change]
  await lead('post', api('/decisions'), { changes: after, reason: 'as agreed' }).expect(200)
  expect((await table()).agreed[one.scriptId]).toBe(14)
  await lead('post', api(`/decisions/${decision.id}/withdraw`), { reason: 'Not this way' }).expect(200)
  const again = await table()
  expect(again.readings).toEqual(raw.readings)
  expect(again.agreed).toEqual(Object.fromEntries(Object.entries(raw.agreed).filter(([id]) => id !== one.scriptId)))
  const { words } = (await lead('get', api(`/scripts/${encodeURIComponent(one.scriptId)}`)).expect(200)).body as ScriptDetail
  expect(words[0]!.holds).toBe(false)
  expect(words[0]!.readings.map((r) => r.mark)).toContain(one.mark)
  expect((await carriedTo(next)).carried).toBe(ofMap)
})

test('at the desk a reading stands as it counts after a carry-over; taken back, it is marked by the version that it was carried to', async () => {
  const next = ((await lead('get', api('/library/rubric-map/versions')).expect(200)).body as RubricVersion[]).find(
    (v) => v.version === 2,
  )!.id
  const { changes } = await carriedTo(next)
  const [carry] = changes
  if (carry?.kind !== 'carry') throw new Error('nothing is carried')
  const { agreed } = await table()
  const decision = (await lead('post', api('/decisions'), { changes, reason: 'The level was too low' }).expect(200)).body as Decision
  const open = carry.readings.find((r) => r.picks.relief === 8.5 && agreed[r.scriptId] === undefined)!
  const student = open.scriptId.slice(MAP.length + 1)
  const { db } = server
  db.prepare('UPDATE assessment SET blind = 0 WHERE id = ?').run(MAP)
  db.prepare(
    "INSERT OR IGNORE INTO allotment (assessment_id, student_id, marker_id, place, by_id, at) SELECT ?, ?, ?, 1, id, '2026-01-01' FROM person LIMIT 1",
  ).run(MAP, student, open.markerId)
  const reader = await server.as(db.prepare<[string], string>('SELECT sign_in FROM person WHERE id = ?').pluck().get(open.markerId)!)
  const pile = (await reader('get', api(`/assessments/${MAP}/pile`)).expect(200)).body as PileScript[]
  expect(pile.find((s) => s.studentId === student)!.mark).toBe(open.mark)
  const path = api(`/assessments/${MAP}/pile/${student}`)
  const shown = (await reader('get', path).expect(200)).body as DeskScript
  expect([shown.own.mark, shown.own.judged.picks.relief, shown.standard!.id]).toEqual([open.mark, 8.5, next])
  const { mark: _, state: __, ...body } = shown.own
  const taken = await reader('put', `${path}/reading`, { ...body, state: 'draft', afterSeeing: true, gapMeant: false }).expect(200)
  expect(taken.body).toMatchObject({ state: 'draft', mark: open.mark })
  expect(((await reader('get', path).expect(200)).body as DeskScript).standard!.id).toBe(next)
  // What is not handed in waits for nothing to be carried over.
  expect((await rubricOf(next)).uses.find((u) => u.assessmentId === MAP)!.behind).toBe(0)
  await lead('post', api(`/decisions/${decision.id}/withdraw`), { reason: 'Not this way' }).expect(200)
})

test('a criterion that nothing carries over to leaves every reading as it is, and says which', async () => {
  const [latest] = (await lead('get', api('/library/rubric-map/versions')).expect(200)).body as RubricVersion[]
  const { revision, title, criteria } = await rubricOf(latest!.id)
  const added = {
    id: 'voice',
    title: 'Voice',
    ranges: false,
    penalty: false,
    levels: [
      { points: 0, words: 'none' },
      { points: 2, words: 'some' },
    ],
  }
  const standard = { kind: 'rubric', title, body: { criteria: [...criteria, added] } }
  const { id } = (await lead('put', api(`/library/${latest!.id}`), { revision, standard }).expect(200)).body as { id: string }
  const { carried, left } = await carriedTo(id)
  expect(carried).toBe(0)
  expect(left[0]!.why).toBe('Voice is not judged')
})

test('a reading that left a criterion open on purpose is carried over with it open', async () => {
  const next = ((await lead('get', api('/library/rubric-map/versions')).expect(200)).body as RubricVersion[]).find(
    (v) => v.version === 2,
  )!.id
  const readingsTo = async () => {
    const { changes, left } = await carriedTo(next)
    return { left: left.length, carried: changes.flatMap((c) => (c.kind === 'carry' ? c.readings : [])) }
  }
  const before = await readingsTo()
  const [one] = before.carried
  const picks = server.db.prepare('UPDATE reading SET picks = json_remove(picks, ?) WHERE script_id = ? AND marker_id = ?')
  picks.run('$.relief', one!.scriptId, one!.markerId)
  const after = await readingsTo()
  const open = after.carried.find((r) => r.scriptId === one!.scriptId && r.markerId === one!.markerId)!
  expect([after.left, after.carried.length, open.picks.relief]).toEqual([before.left, before.carried.length, undefined])
  expect(open.mark).toBeLessThan(one!.mark)
})

test('readings at a level that was taken away are named, and go along to the nearest one only where that is said', async () => {
  const [latest] = (await lead('get', api('/library/rubric-map/versions')).expect(200)).body as RubricVersion[]
  const { revision, title, criteria } = await rubricOf(latest!.id)
  const fewer = criteria
    .filter((c) => c.id !== 'voice')
    .map((c) => (c.id === 'relief' ? { ...c, levels: c.levels.filter((_, i) => i !== 2) } : c))
  const standard = { kind: 'rubric', title, body: { criteria: fewer } }
  const { id } = (await lead('put', api(`/library/${latest!.id}`), { revision, standard }).expect(200)).body as { id: string }
  const { changes, carried, nearest } = await carriedTo(id)
  expect(nearest!.at[0]!.why).toMatch(/^Relief.*: its level is gone, [\d.]+ is the nearest$/)
  expect(nearest!.carried).toBe(carried + nearest!.at.length)
  for (const all of [changes, nearest!.changes]) {
    const { id: made } = (await lead('post', api('/decisions'), { changes: all, reason: 'fewer levels' }).expect(200)).body as Decision
    await lead('post', api(`/decisions/${made}/withdraw`), { reason: 'as it was' }).expect(200)
  }
})

test('what was changed on the way, or does not follow, is refused', async () => {
  const versions = (await lead('get', api('/library/rubric-map/versions')).expect(200)).body as RubricVersion[]
  const { changes } = await carriedTo(versions.find((v) => v.version === 2)!.id)
  const forged = structuredClone(changes)
  if (forged[0]?.kind === 'carry') forged[0].readings[0]!.mark += 5
  expect(detail(await lead('post', api('/decisions'), { changes: forged, reason: 'forged' }).expect(409))).toMatch(/carry them over again/)
  expect(detail(await lead('get', api(`/assessments/${MAP}/carried/scheme-field-book`)).expect(422))).toMatch(
    /Only readings by a rubric or a scale/,
  )
  const { carried, left } = (await lead('get', api(`/assessments/${MAP}/carried/scale-viva`)).expect(200)).body as Carried
  expect([carried, left[0]!.why]).toEqual([0, expect.stringMatching(/^was read by .+, which is no version of Spoken defence/)])
})

test('judgements by a scale are carried over to its next version: by name, those whose label is gone when asked, and taken back', async () => {
  const VIVA = `${COURSE}-viva-1`
  const { db } = server
  const scale = ((await lead('get', api('/library')).expect(200)).body as Library).scales.find((s) => s.id === 'scale-viva')!
  const labels = scale.labels
    .slice(1)
    .map((l, i) => ({ ...l, threshold: i === 0 ? 0 : l.threshold, percent: l.label === 'assured' ? 78 : l.percent }))
  const standard = { kind: 'scale', title: scale.title, body: { labels } }
  const { id } = (await lead('put', api('/library/scale-viva'), { revision: scale.revision, standard }).expect(200)).body as { id: string }
  expect(id).not.toBe('scale-viva')
  const { version } = ((await lead('get', api('/plan')).expect(200)).body as Plan).assessments.find((a) => a.id === VIVA)!
  await lead('put', api(`/assessments/${VIVA}/standard`), { version, standardId: id }).expect(200)
  const carriedNow = async () => (await lead('get', api(`/assessments/${VIVA}/carried/${id}`)).expect(200)).body as Carried

  const made = db
    .prepare<[string], { judgement: string; n: number }>(
      "SELECT r.judgement, count(*) AS n FROM reading r JOIN script s ON s.id = r.script_id WHERE s.assessment_id = ? AND r.state = 'handed in' GROUP BY 1",
    )
    .all(VIVA)
  const of = (label: string) => made.find((m) => m.judgement === label)?.n ?? 0
  const before = await carriedNow()
  expect([before.carried, before.moved, before.left]).toEqual([made.reduce((n, m) => n + m.n, 0) - of('unready'), of('assured'), []])
  expect(before.nearest!.at).toHaveLength(of('unready'))
  expect(before.nearest!.at[0]!.why).toBe('“unready” is gone, “hesitant” is the nearest')

  const { changes } = before.nearest!
  const decision = (await lead('post', api('/decisions'), { changes, reason: 'Four labels are enough' }).expect(200)).body as Decision
  const [carry] = changes
  if (carry?.kind !== 'carry') throw new Error('nothing is carried')
  const one = carry.readings.find((r) => r.judgement === 'assured')!
  const reading = async () =>
    ((await lead('get', api(`/scripts/${encodeURIComponent(one.scriptId)}`)).expect(200)).body as ScriptDetail).readings.find(
      (r) => r.markerId === one.markerId,
    )!
  expect(await reading()).toMatchObject({ mark: 78, madeMark: 76 })
  expect((await carriedNow()).carried).toBe(0)
  await lead('post', api(`/decisions/${decision.id}/withdraw`), { reason: 'Five after all' }).expect(200)
  expect((await reading()).mark).toBe(76)
  expect(await carriedNow()).toEqual(before)
})

describe('suggestions', () => {
  test('in words, answered once by the owner', async () => {
    expect((await rubricOf('rubric-map')).suggestions.concat((await rubrics()).flatMap((r) => r.suggestions))[0]).toMatchObject({
      answer: null,
    })
    const owner = (await rubrics()).find((r) => r.suggestions.some((g) => g.id === 'suggestion-relief'))!
    const path = api(`/library/${owner.id}/suggestions/suggestion-relief`)
    await lead('put', path, { answer: 'declined', reply: 'Half points are in Generalisation.' }).expect(200)
    expect(detail(await lead('put', path, { answer: 'taken over', reply: '' }).expect(409))).toBe('It is declined already.')
    await marker('put', path, { answer: 'declined', reply: '' }).expect(403)
  })

  test('by a copy: taken over, the owner’s entry is as the copy', async () => {
    const id = ((await lead('post', api('/library/rubric-map/copies')).expect(200)).body as { id: string }).id
    expect((await rubricOf(id)).copiedFrom).toBe('rubric-map')
    server.db.prepare('UPDATE standard SET owner_id = ? WHERE id = ?').run('marker-2', id)
    const target = ((await lead('post', api('/library/rubric-map/copies')).expect(200)).body as { id: string }).id
    const copy = await rubricOf(id)
    server.db.prepare('UPDATE standard SET body = ? WHERE id = ?').run(JSON.stringify({ criteria: copy.criteria.slice(0, 2) }), id)
    const { id: suggestionId } = (
      await marker('post', api(`/library/${target}/suggestions`), { words: 'Two are enough.', copyId: id }).expect(200)
    ).body as { id: string }
    await lead('put', api(`/library/${target}/suggestions/${suggestionId}`), { answer: 'taken over', reply: '' }).expect(200)
    expect((await rubricOf(target)).criteria).toHaveLength(2)
    expect((await rubricOf(target)).suggestions[0]!.answer).toBe('taken over')
    expect(detail(await lead('post', api(`/library/${target}/suggestions`), { words: 'x', copyId: null }).expect(422))).toMatch(
      /is your own/,
    )
  })
})

test('outcomes are made, linked, used where their rubrics are, and travel as CASE', async () => {
  const all = (await lead('get', api('/library')).expect(200)).body as Library
  const outcome = all.outcomes.find((o) => o.id === 'outcome-generalise')!
  expect(outcome.uses.map((u) => u.assessment)).toContain('Map project')
  const packed = (await lead('get', api('/library/rubric-map/case.json')).expect(200)).body as object
  const file = Buffer.from(JSON.stringify(packed)).toString('base64')
  const read = (await lead('post', api('/library-files'), { file }).expect(200)).body as {
    rubrics: { criteria: { outcomeIds?: string[] }[] }[]
    outcomes: { id: string; title: string; levels: unknown[]; rule: unknown }[]
  }
  const { title, statement, levels, reached, rule } = outcome
  expect(read.outcomes[0]).toMatchObject({ title, statement, levels, reached, rule })
  expect(read.rubrics[0]!.criteria[0]!.outcomeIds).toEqual([read.outcomes[0]!.id])
  const version = ((await lead('get', api('/plan'))).body as Plan).assessments.find((a) => a.id === MAP)!.version
  const refused = await lead('put', api(`/assessments/${MAP}/standard`), { version, standardId: outcome.id }).expect(422)
  expect(detail(refused)).toMatch(/is an outcome: link criteria/)
})
