import fc from 'fast-check'
import { compareResults } from './compare-results'
import { movesInWords, movesOf } from './moves-in-words'

const boundaries = [
  { grade: 'Merit', from: 60 },
  { grade: 'Pass', from: 40 },
  { grade: 'Refer', from: 0 },
]
const student = (studentId: string, grade: string | null) => ({ studentId, soFar: 50, adjusted: 50, grade })

test('whoever loses a grade or gets one is told apart from who moves', () => {
  const was = { boundaries, students: [student('a', 'Pass'), student('b', 'Merit'), student('c', null), student('d', 'Merit')] }
  const is = { boundaries, students: [student('a', 'Merit'), student('b', null), student('c', 'Refer'), student('d', 'Pass')] }
  expect(movesInWords(movesOf(compareResults(was, is)))).toBe('1 up, 1 down, 1 with a first grade, 1 without a grade then')
})

test('a grade under another name is no move', () => {
  const renamed = boundaries.map((b) => ({ ...b, grade: b.grade === 'Merit' ? 'Credit' : b.grade }))
  const change = compareResults(
    { boundaries, students: [student('a', 'Merit')] },
    { boundaries: renamed, students: [student('a', 'Credit')] },
  )
  expect(movesInWords(movesOf(change))).toBe('1 under another name')
})

test('the parts always add up to the whole', () => {
  const grade = fc.constantFrom(null, 'Merit', 'Pass', 'Refer')
  fc.assert(
    fc.property(fc.array(fc.tuple(grade, grade), { maxLength: 12 }), (pairs) => {
      const of = (side: 0 | 1) => ({ boundaries, students: pairs.map((p, i) => student(String(i), p[side])) })
      const change = compareResults(of(0), of(1))
      const { up, down, gained, lost, renamed } = change
      expect(up + down + gained + lost + renamed).toBe(change.movers.length)
      const said = movesInWords(movesOf(change)).match(/\d+/g) ?? []
      expect(said.reduce((sum, n) => sum + Number(n), 0)).toBe(change.movers.length)
    }),
  )
})

test('what was recorded before says that the rest got or lost one', () => {
  expect(movesInWords({ grades: 189, up: 0, down: 0 })).toBe('189 with or without a grade then')
  expect(movesInWords({ grades: 0, up: 0, down: 0 })).toBe('')
})
