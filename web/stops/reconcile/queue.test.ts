import type { Change } from '#core'
import { smallCourse, smallTable } from '../../testing/small-course'
import { readingRows } from './queue'

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
const essay = () => table().assessments[1]!

test('scripts read twice: open ones first, widest spread first; one reading alone is none of them', () => {
  const rows = readingRows(smallCourse(table()), essay())
  expect(rows.map((r) => [r.studentId, r.spread, r.over, r.agreed])).toEqual([
    ['ada', 9, true, null],
    ['bo', 2, false, null],
    ['di', 6, true, 14],
  ])
})

test('what is at stake are the grades of the lowest and the highest reading', () => {
  const [ada] = readingRows(smallCourse(table()), essay())
  // 20 of 40 in the paper; 6 or 15 of 20 in the essay: 40% or 62.5% in all.
  expect(ada!.stake).toEqual(['Pass', 'Merit'])
})

test('a settling that is tried stands on its row and keeps it among the open ones', () => {
  const settle: Change = { kind: 'settle', scriptId: 'essay:bo', mark: 13, rule: { kind: 'mean' }, step: null }
  const rows = readingRows(smallCourse(table(), [settle]), essay())
  expect(rows.map((r) => [r.studentId, r.agreed, r.trying])).toEqual([
    ['ada', null, false],
    ['bo', 13, true],
    ['di', 14, false],
  ])
})
