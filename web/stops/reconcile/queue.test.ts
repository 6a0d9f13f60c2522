import type { Change } from '#core/trial'
import { smallState, smallTable } from '../../testing/small-course'
import { keepTyped, readingQueueOf } from './queue'

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

test('the first assessment with something to settle is shown where none is named, and those without are none to choose', () => {
  const { toSettle, assessmentId } = readingQueueOf(smallState(table()), null)
  expect({ toSettle, assessmentId }).toEqual({ toSettle: ['essay'], assessmentId: 'essay' })
  expect(readingQueueOf(smallState(smallTable([['ada', 'paper', 20]])), null)).toEqual({ toSettle: [], assessmentId: null, rows: [] })
})
