import type { Adjustment } from '#core/rescale'
import { openItems, planFacts, type Change } from '#core/trial'
import { smallState, smallTable } from '../../testing/small-course'
import { narrowed } from './filter'
import { gradesIf } from './would-be'
import { keepTyped, readingQueueOf as queueColumnsOf, type QueueOrder } from './queue'
import { queueOfColumns } from './queue-columns'

const table = () =>
  smallTable(
    [
      ['ada', 'paper', 20],
      ['ada', 'essay', null],
      ['bo', 'essay', null],
      ['cy', 'essay', null],
      ['di', 'essay', null],
    ],
    [
      ['ada', 'essay', 'mo', 6],
      ['ada', 'essay', 'ny', 15],
      ['bo', 'essay', 'mo', 12],
      ['bo', 'essay', 'ny', 14],
      ['cy', 'essay', 'mo', 9],
      ['di', 'essay', 'mo', 11],
      ['di', 'essay', 'ny', 17],
    ],
    { agreed: { 'essay:di': 14 } },
  )
/** As the page gets it. */
const readingQueueOf = (...of: Parameters<typeof queueColumnsOf>) => queueOfColumns(structuredClone(queueColumnsOf(...of)))
const readingRows = (state: ReturnType<typeof smallState>, assessmentId = 'essay') => readingQueueOf(state, assessmentId).rows

test('scripts read twice: open ones first, widest spread first; one reading alone is none of them', () => {
  const rows = readingRows(smallState(table()))
  expect(rows.map((r) => [r.studentId, r.spread, r.over, r.agreed])).toEqual([
    ['ada', 9, true, null],
    ['bo', 2, false, null],
    ['di', 6, true, 14],
  ])
})

test('what is at stake are the grades of the lowest and the highest reading', () => {
  const [ada] = readingRows(smallState(table()))
  // 20 of 40 in the paper; 6 or 15 of 20 in the essay: 40% or 62.5% in all.
  expect(ada!.stake).toEqual(['Pass', 'Merit'])
})

test('a settling that is tried stands on its row and keeps it among the open ones', () => {
  const settle: Change = { kind: 'settle', scriptId: 'essay:bo', mark: 13, rule: { kind: 'mean' }, step: null }
  const rows = readingRows(smallState(table(), [settle]))
  expect(rows.map((r) => [r.studentId, r.agreed, r.trying])).toEqual([
    ['ada', null, false],
    ['bo', 13, true],
    ['di', 14, false],
  ])
})

test('one reading beside another mark that was typed is settled by a person, whatever the tolerance', () => {
  const typed = smallTable([['ada', 'paper', 20]], [['ada', 'paper', 'mo', 21]])
  const [ada] = readingRows(smallState(typed), 'paper')
  expect(ada).toMatchObject({ typed: 20, spread: 1, over: true, agreed: null })
  const same = smallTable([['ada', 'paper', 20]], [['ada', 'paper', 'mo', 20]])
  expect(readingRows(smallState(same), 'paper')).toEqual([])
  const kept: Change = { kind: 'settle', scriptId: 'paper:ada', mark: 20, rule: keepTyped(20), step: null }
  expect(readingRows(smallState(typed, [kept]), 'paper')[0]).toMatchObject({ agreed: 20, trying: true })
})

test('all assessments stand in one queue; where one is named it is shown alone, and those without are none to choose', () => {
  const all = readingQueueOf(smallState(table()), null)
  expect(all).toMatchObject({ toSettle: ['essay'], assessmentId: null, open: 2, openOver: 1 })
  expect(readingQueueOf(smallState(table()), 'essay')).toMatchObject({ assessmentId: 'essay', open: 2 })
  expect(readingQueueOf(smallState(smallTable([['ada', 'paper', 20]])), null)).toEqual({
    toSettle: [],
    assessmentId: null,
    open: 0,
    openOver: 0,
    pairs: [],
    rows: [],
  })
})

test('what waits here is what waits at the stop and at Confirm: nobody absent, nobody left out, no sample within tolerance', () => {
  const readings: Parameters<typeof smallTable>[1] = [
    ['ada', 'essay', 'mo', 6],
    ['ada', 'essay', 'ny', 15],
    ['bo', 'essay', 'mo', 6],
    ['bo', 'essay', 'ny', 15],
    // Read once as it is wanted, and once more as a sample.
    ['cy', 'paper', 'mo', 20],
    ['cy', 'paper', 'ny', 21],
    ['di', 'paper', 'mo', 10],
    ['di', 'paper', 'ny', 30],
  ]
  const state = smallState(
    smallTable(
      [
        ['ada', 'essay', null, 'absent'],
        ['bo', 'essay', null],
        ['cy', 'paper', null],
        ['di', 'paper', null],
      ],
      readings,
      { leftOut: { essay: ['bo'] } },
    ),
  )
  const { rows, open } = readingQueueOf(state, null)
  expect([rows.map((r) => r.scriptId), open]).toEqual([['paper:di'], 1])
  const items = openItems(state.workings, planFacts(state.table), state.adopted.standing)
  expect(items.filter((i) => i.stop === 'reconcile').reduce((n, i) => n + i.count, 0)).toBe(open)
})

test('grades at stake are those of the marks as they are rescaled', () => {
  const adjustment: Adjustment = {
    id: 'up',
    assessmentId: 'essay',
    outOf: 20,
    sectionIds: null,
    method: { kind: 'add', by: 5 },
    on: true,
    neverLower: false,
    above: 'keep within',
    step: null,
  }
  const [ada] = readingRows(smallState({ ...table(), adjustments: [adjustment] }))
  // 20 of 40; 11 or 20 of 20 in place of 6 or 15: 52.5% or 75%.
  expect(ada!.stake).toEqual(['Pass', 'Merit'])
  const state = smallState({ ...table(), adjustments: [adjustment] })
  expect(gradesIf(state, 'essay:ada', [6, 15, 13]).grades).toEqual([
    { mark: 11, percent: 52.5, grade: 'Pass', soFar: false },
    { mark: 20, percent: 75, grade: 'Merit', soFar: false },
    { mark: 18, percent: 70, grade: 'Merit', soFar: false },
  ])
})

test('a script opened again is open, and says so; opened in a trial it keeps its place', () => {
  const settled = { ...table(), agreed: { 'essay:di': 14, 'essay:bo': 13 } }
  const reopen: Change = { kind: 'reopen', scriptId: 'essay:bo' }
  const rows = readingRows(smallState(settled, [reopen]))
  expect(rows.map((r) => [r.studentId, r.agreed, r.trying, r.reopened])).toEqual([
    ['ada', null, false, false],
    ['bo', null, true, true],
    ['di', 14, false, false],
  ])
  const now = readingRows(smallState({ ...table(), reopened: ['essay:bo'] }))
  expect(now.find((r) => r.studentId === 'bo')).toMatchObject({ agreed: null, reopened: true })
})

test('the queue in other orders, and as narrowed down', () => {
  const state = smallState(table())
  const order = (o: QueueOrder) => readingQueueOf(state, null, o).rows.map((r) => r.studentId)
  expect(order('spread')).toEqual(['ada', 'bo', 'di'])
  expect(order('stake')[0]).toBe('ada')
  const { rows } = readingQueueOf(state, null)
  const sections = new Map([
    ['ada', 'east'],
    ['bo', 'east'],
    ['di', 'west'],
  ])
  const left = (filter: Partial<Parameters<typeof narrowed>[1]>) =>
    narrowed(rows, { sectionId: '', readBy: '', students: null, ...filter }, sections).map((r) => r.studentId)
  expect(left({ sectionId: 'west' })).toEqual(['di'])
  expect(left({ readBy: 'mo ny' })).toEqual(['ada', 'bo', 'di'])
  expect(left({ readBy: 'nobody' })).toEqual([])
  expect(left({ students: new Set(['bo']) })).toEqual(['bo'])
  expect(readingQueueOf(state, null).pairs).toEqual([{ a: 'mo', b: 'ny', scripts: 3 }])
})

test('however long the queue, a grade at stake comes before a wider spread that moves none', () => {
  const ids = Array.from({ length: 900 }, (_, i) => `s${i}`)
  const students = ids.map((id, i) => ({ id, name: id, candidate: String(i), sectionId: 'east' }))
  // Of the last alone a grade hangs on it: 30 of 40 in the paper, and 8 or 11 of 20 are 57.5% or 65%; all others are far below or above.
  const last = ids.at(-1)!
  const long = smallTable(
    ids.flatMap((id): [string, string, number | null][] => [
      [id, 'paper', id === last ? 30 : 8],
      [id, 'essay', null],
    ]),
    ids.flatMap((id): [string, string, string, number][] =>
      id === last
        ? [
            [id, 'essay', 'mo', 8],
            [id, 'essay', 'ny', 11],
          ]
        : [
            [id, 'essay', 'mo', 1],
            [id, 'essay', 'ny', 5],
          ],
    ),
    { students },
  )
  const { rows } = readingQueueOf(smallState(long), null)
  expect([rows.length, rows[0]!.studentId, rows[0]!.stake]).toEqual([900, last, ['Pass', 'Merit']])
  expect(rows.every((r) => r.stake !== null && r.near !== null)).toBe(true)
})

test('a standing rule settles what lies within tolerance by itself, and leaves the rest, and what was opened again, to a person', () => {
  const state = smallState({ ...table(), agreed: {}, agreeBy: { essay: 'highest' } })
  const { rows, open, openOver } = readingQueueOf(state, null)
  expect([open, openOver]).toEqual([2, 2])
  // Ada’s 9 apart, Di’s 6; Bo’s 12 and 14 lie within 2, and Cy was read once of two.
  expect(rows.map((r) => [r.studentId, r.agreed, r.ruled])).toEqual([
    ['ada', null, false],
    ['di', null, false],
    ['bo', 14, true],
  ])
  const opened = smallState({ ...table(), agreed: {}, agreeBy: { essay: 'highest' }, reopened: ['essay:bo'] })
  expect(readingQueueOf(opened, null).rows.find((r) => r.studentId === 'bo')).toMatchObject({ agreed: null, reopened: true })
  const tried = smallState({ ...table(), agreed: {} }, [{ kind: 'agree by', assessmentId: 'essay', rule: 'mean' }])
  expect(readingQueueOf(tried, null).rows.find((r) => r.studentId === 'bo')).toMatchObject({ agreed: 13, trying: true, ruled: true })
})
