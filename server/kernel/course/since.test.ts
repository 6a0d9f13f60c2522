import { gradeWorkings, ifSaved, settleBy, standingRows, workingsOf, workingsSince, type Change, type Workings } from '#core/trial'
import { unpackTable, type Cell, type CellRefusal, type Decision, type TableInColumns, type TableSince } from '#contract'
import { wholeResult } from '../../../core/testing/whole-result'
import { COURSE, api, demoServer } from '../../testing/serve'
import { sheetIn } from '../../testing/sheet-of'

const { server, lead } = demoServer()

const fetched = async () => {
  const table = unpackTable((await lead('get', api('/table')).expect(200)).body as TableInColumns)
  return { version: table.version, workings: workingsOf(table) }
}
/** What a page that has the course makes of what it is told. */
const brought = async (had: Awaited<ReturnType<typeof fetched>>) => {
  const since = (await lead('get', api(`/table/since/${had.version}`)).expect(200)).body as TableSince
  const workings = since && workingsSince(had.workings, since)?.workings
  return (
    since && workings && { version: since.version, workings, plan: since.plan !== null, cells: since.cells.length, written: since.cells }
  )
}
const seen = (w: Workings) => ({ standing: standingRows(w), grades: wholeResult(gradeWorkings(w)), boundaries: w.course.boundaries })
const adopt = async (changes: Change[]) => (await lead('post', api('/decisions'), { changes, reason: 'test' }).expect(200)).body as Decision

test('marks and decisions since a version make of what is there what is there now', async () => {
  const had = await fetched()
  const sheet = sheetIn((await lead('get', api('/sheet'))).body)
  const cell = sheet.cells.find((c) => c.assessmentId === `${COURSE}-pacing` && c.status === 'in' && c.mark !== null)!
  const { studentId, assessmentId, version } = cell
  const write = { studentId, assessmentId, version, mark: cell.mark === 3 ? 4 : 3, status: 'in' as const, daysLate: 0 }
  await lead('patch', api('/sheet'), { cells: [write] }).expect(200)
  const marked = (await brought(had))!
  expect(marked).toMatchObject({ plan: false, cells: 1 })
  expect(marked.written).toEqual(ifSaved(had.workings, [write]))
  expect(seen(marked.workings)).toEqual(seen((await fetched()).workings))

  const open = standingRows(marked.workings).find((s) => s.source === 'open')!
  const [settle] = settleBy(marked.workings, [open.cell], { kind: 'mean' }, 0.5)
  const bound = marked.workings.course.boundaries.map((b, i) => ({ ...b, from: i === 0 ? b.from + 0.5 : b.from }))
  const decision = await adopt([settle!, { kind: 'bound', boundaries: bound }])
  const decided = (await brought(had))!
  expect(decided).toMatchObject({ plan: true, cells: 1 })
  expect(seen(decided.workings)).toEqual(seen((await fetched()).workings))
  expect(decided.workings.course.boundaries).toEqual(bound)

  await lead('post', api(`/decisions/${decision.id}/withdraw`), { reason: 'test' }).expect(200)
  const withdrawn = (await brought(decided))!
  expect(seen(withdrawn.workings)).toEqual(seen((await fetched()).workings))
  expect(await brought(withdrawn)).toMatchObject({ plan: false, cells: 0, version: withdrawn.version })
})

test('where more has changed than marks and decisions that is said, and all is fetched', async () => {
  const had = await fetched()
  await adopt([{ kind: 'take away', assessmentId: `${COURSE}-traverse` }])
  expect(await brought(had)).toBeNull()
})

test('a marker is told of neither', async () => {
  const marker = await server.as('tadesse.abara')
  await marker('get', api('/table/since/1')).expect(403)
})

describe('a write of marks that says which table the page has', () => {
  type Written = { saved: Cell[]; refused: CellRefusal[]; since?: TableSince }
  /** Types another mark into a script of a section. */
  const typed = async (who: typeof lead, tableVersion: number | undefined, section: string) => {
    const sheet = sheetIn((await who('get', api('/sheet')).expect(200)).body)
    const own = new Set(sheet.students.filter((s) => s.sectionId === section).map((s) => s.id))
    const cell = sheet.cells.find(
      (c) => own.has(c.studentId) && c.assessmentId === `${COURSE}-pacing` && c.status === 'in' && c.mark !== null,
    )!
    const { studentId, assessmentId, version } = cell
    const write = { studentId, assessmentId, version, mark: cell.mark === 5 ? 6 : 5, status: 'in', daysLate: 0 }
    const { body } = await who('patch', api('/sheet'), { cells: [write], tableVersion }).expect(200)
    return body as Written
  }
  const sectionOf = async (who: typeof lead) => sheetIn((await who('get', api('/sheet'))).body).students[0]!.sectionId

  test('is answered what was written since, its own cells among it', async () => {
    const had = await fetched()
    const section = await sectionOf(lead)
    await typed(lead, undefined, section)
    const { since, saved } = await typed(lead, had.version, section)
    expect(saved).toHaveLength(1)
    expect(since).toEqual((await lead('get', api(`/table/since/${had.version}`)).expect(200)).body)
    expect(seen(workingsSince(had.workings, since!)!.workings)).toEqual(seen((await fetched()).workings))
  })

  test('and not where it says none, where more has changed, or where it is a marker who types', async () => {
    const had = await fetched()
    const section = await sectionOf(lead)
    expect(await typed(lead, undefined, section)).not.toHaveProperty('since')
    await adopt([
      { kind: 'bound', boundaries: had.workings.course.boundaries.map((b, i) => ({ ...b, from: i === 0 ? b.from + 0.5 : b.from })) },
    ])
    expect(await typed(lead, had.version, section)).not.toHaveProperty('since')
    const marker = await server.as('tadesse.abara')
    const { version } = await fetched()
    const answer = await typed(marker, version, await sectionOf(marker))
    expect(answer.saved).toHaveLength(1)
    expect(answer).not.toHaveProperty('since')
  })
})
