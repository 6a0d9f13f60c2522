import { MAP_RUBRIC } from '../../../demo/standards'
import { USUAL_USE, type Exemplars, type OwnWork, type Plan } from '#contract'
import { COURSE, api, demoServer, type Client } from '../../testing/serve'
import { sheetIn } from '../../testing/sheet-of'

const { server, lead } = demoServer()
let marker: Client
let student: Client
let markerId: string
beforeAll(async () => {
  marker = await server.as('rune.daal')
  student = await server.as('student')
  markerId = ((await marker('get', '/api/session')).body as { id: string }).id
}, 60_000)

const detail = (answer: { body: unknown }) => (answer.body as { detail: string }).detail
const of = (assessment: string) => api(`/assessments/${COURSE}-${assessment}/exemplars`)
const seen = async (who: Client, assessment = 'map') => (await who('get', of(assessment)).expect(200)).body as Exemplars
const top = Object.fromEntries(MAP_RUBRIC.criteria.map((c) => [c.id, c.penalty ? 0 : c.levels.at(-1)!.points]))
const exemplar = (more: object = {}) => ({
  label: 'The weir sheet',
  text: 'Maker’s note.',
  agreed: { picks: top, judgement: null, mark: null },
  note: 'All of it.',
  shown: 'nothing',
  ...more,
})

test('the lead sees what was agreed, who read what and who may begin', async () => {
  const { exemplars, markers, standard } = await seen(lead)
  expect(exemplars.map((x) => [x.label, x.agreed?.mark, x.readBy])).toEqual([
    ['The terrace sheet', 83.75, 11],
    ['The quarry sheet', 21.25, 10],
  ])
  expect(standard).toMatchObject({ kind: 'rubric', id: 'rubric-map' })
  expect(markers!.filter((m) => m.gate === 'held')).toHaveLength(1)
})

test('a marker is sent what was agreed only once they have read it, and nothing of others', async () => {
  const { id } = (await lead('post', of('map'), exemplar()).expect(200)).body as { id: string }
  const before = await seen(marker)
  expect(before.markers).toBeNull()
  expect(before.mine).toBe('held')
  const unread = before.exemplars.find((x) => x.id === id)!
  expect(unread).toMatchObject({ agreed: null, own: null, text: 'Maker’s note.' })

  const path = api(`/exemplars/${id}/reading`)
  const gap = { ...top }
  delete (gap as Record<string, number>).relief
  expect(detail(await marker('put', path, { picks: gap, judgement: null, mark: null }).expect(422))).toBe(
    'Not judged yet: Relief and terrain.',
  )
  expect(detail(await marker('put', path, { picks: { ...top, relief: 7 }, judgement: null, mark: null }).expect(422))).toMatch(
    /7 is not one of its levels/,
  )
  const own = { ...top, relief: 8 }
  await marker('put', path, { picks: own, judgement: null, mark: null }).expect(204)
  const after = (await seen(marker)).exemplars.find((x) => x.id === id)!
  expect(after).toMatchObject({ own: { picks: own, mark: 95 }, agreed: { picks: top, mark: 100, note: 'All of it.' } })
  expect((await seen(marker)).mine).toBe('open')
  expect(detail(await marker('put', path, { picks: top, judgement: null, mark: null }).expect(409))).toMatch(
    /before you saw the agreed mark stays/,
  )
  expect(() => server.db.prepare('UPDATE exemplar_reading SET mark = 0').run()).toThrow('stays')
})

test('its text stays once it is read; put away, it is nobody’s any more; a stale edit is refused', async () => {
  const x = (await seen(lead)).exemplars.find((e) => e.label === 'The weir sheet')!
  const path = api(`/exemplars/${x.id}`)
  expect(detail(await lead('put', path, { ...exemplar({ text: 'Another.' }), version: x.version, away: false }).expect(409))).toMatch(
    /its text stays/,
  )
  await lead('put', path, { ...exemplar({ note: 'All of it, and more.' }), version: x.version, away: false }).expect(204)
  await lead('put', path, { ...exemplar(), version: x.version, away: true }).expect(409)
  await lead('put', path, { ...exemplar(), version: x.version + 1, away: true }).expect(204)
  expect((await seen(lead)).exemplars.map((e) => e.label)).not.toContain('The weir sheet')
  expect(() => server.db.prepare('DELETE FROM exemplar').run()).toThrow('never deleted')
})

test('by mark alone, by free points, and by a label; none of them outside its range', async () => {
  const add = (assessment: string, agreed: object) =>
    lead('post', of(assessment), exemplar({ agreed: { picks: {}, judgement: null, mark: null, ...agreed } }))
  expect(detail(await add('paper-1', { mark: 81 }).expect(422))).toBe('81 is outside 0 to 80.')
  await add('paper-1', { mark: 61.5 }).expect(200)
  expect((await seen(lead, 'paper-1')).exemplars[0]!.agreed).toMatchObject({ mark: 61.5, picks: {} })
  expect(detail(await add('viva-1', { judgement: 'splendid' }).expect(422))).toBe('Choose a label of the scale.')
  await add('viva-1', { judgement: 'assured' }).expect(200)
  expect((await seen(lead, 'viva-1')).exemplars[0]!.agreed).toMatchObject({ judgement: 'assured', mark: 76 })
  expect(detail(await add('field-book-1', { picks: { entries: 15, sketches: 10 } }).expect(422))).toBe('Not judged yet: Reduction.')
  await add('field-book-1', { picks: { entries: 15, sketches: 10, reduction: 0 } }).expect(200)
  expect((await seen(lead, 'field-book-1')).exemplars[0]!.agreed!.mark).toBe(25)
})

test('who has not read them may not type marks of it; opened by the lead they may, and held again not', async () => {
  const sheet = sheetIn((await marker('get', api('/sheet')).expect(200)).body)
  const assessmentId = `${COURSE}-detail`
  const cell = sheet.cells.find((c) => c.assessmentId === assessmentId && c.status === 'in' && c.mark !== null)!
  const type = async (mark: number) => {
    const { version } = sheetIn((await marker('get', api('/sheet'))).body).cells.find(
      (c) => c.studentId === cell.studentId && c.assessmentId === assessmentId,
    )!
    const answer = await marker('patch', api('/sheet'), {
      cells: [{ studentId: cell.studentId, assessmentId, version, mark, status: 'in', daysLate: 0 }],
    }).expect(200)
    return (answer.body as { refused: { kind: string; message: string }[] }).refused
  }
  const gate = (state: string | null) => lead('put', api(`/assessments/${assessmentId}/markers/${markerId}/gate`), { gate: state })
  expect(await type(3)).toEqual([])
  await lead('post', of('detail'), exemplar({ agreed: { picks: {}, judgement: null, mark: 5 } })).expect(200)
  expect((await type(4))[0]).toMatchObject({ kind: 'held', message: expect.stringContaining('1 waits for you at Agree') as string })
  await gate('open').expect(204)
  expect(await type(4)).toEqual([])
  await gate('held').expect(204)
  expect((await type(5))[0]!.kind).toBe('held')
  await gate(null).expect(204)
  await lead('put', api(`/assessments/${assessmentId}/markers/nobody/gate`), { gate: 'open' }).expect(404)
})

test('students see the words before the work is due where that is on, without comments kept ready; and exemplars as far as shown', async () => {
  const own = async () =>
    ((await student('get', api('/own-work')).expect(200)).body as OwnWork).work.find((w) => w.assessment === 'Map project')!
  const { standard, exemplars } = await own()
  expect(standard).toMatchObject({ kind: 'rubric', title: 'A map for a reader' })
  expect(JSON.stringify(standard)).not.toContain('comment')
  expect(exemplars.map((x) => [x.label, x.mark, x.why?.note.slice(0, 10) ?? null])).toEqual([
    ['The terrace sheet', 83.75, 'The warden'],
    ['The quarry sheet', 21.25, null],
  ])
  const { version } = ((await lead('get', api('/plan'))).body as Plan).assessments.find((a) => a.id === `${COURSE}-map`)!
  await lead('patch', api(`/assessments/${COURSE}-map`), { version, use: { ...USUAL_USE, ranges: false } }).expect(200)
  expect((await own()).standard).toBeNull()
  const { standard: used } = await seen(lead)
  expect(used?.kind === 'rubric' && used.body.criteria.every((c) => !c.ranges)).toBe(true)
})
