import { strToU8 } from 'fflate'
import { readRosterResults } from './roster-results'

const csv = (rows: string[][]) => strToU8(rows.map((r) => r.join(',')).join('\r\n'))
const packed = (results: string[][]) =>
  new Map([
    [
      'lineItems.csv',
      csv([
        ['sourcedId', 'title', 'resultValueMax'],
        ['l1', 'Essay', '40'],
      ]),
    ],
    ['results.csv', csv([['sourcedId', 'status', 'lineItemSourcedId', 'studentSourcedId', 'scoreStatus', 'score', 'comment'], ...results])],
  ])

test('what is graded in part is a draft and no mark, what is deleted is none; drafts are counted, comments are remarks', () => {
  const { marks, faults, notes } = readRosterResults(
    packed([
      ['r1', '', 'l1', '3901', 'fully graded', '31', 'Well argued'],
      ['r2', '', 'l1', '3902', 'partially graded', '12', ''],
      ['r3', 'tobedeleted', 'l1', '3903', 'fully graded', '20', ''],
      ['r4', '', 'l1', '3904', 'partially graded', '', 'Two pages are missing'],
    ]),
  )
  expect([marks.map((m) => [m.candidate, m.text, m.outOf]), faults]).toEqual([[['3901', '31', 40]], []])
  expect(marks.map((m) => m.remark)).toEqual(['Well argued'])
  expect(notes).toEqual([
    '2 results in the file are graded in part: still a draft there, and left as it is here.',
    'One result is deleted there. The marks here stay: take them back in the sheet where that is meant.',
  ])
})

test('a file of drafts alone is no fault', () => {
  const { marks, notes } = readRosterResults(packed([['r2', '', 'l1', '3902', 'partially graded', '12', '']]))
  expect([marks, notes]).toEqual([[], ['One result in the file is graded in part: still a draft there, and left as it is here.']])
})

test('of a comment longer than a remark the beginning is taken, and that is said', () => {
  const { marks, notes } = readRosterResults(packed([['r1', '', 'l1', '3901', 'fully graded', '31', `${'a'.repeat(4000)}bc`]]))
  expect([marks[0]!.remark, notes]).toEqual([
    'a'.repeat(4000),
    ['One result has a comment of more than 4000 characters: the beginning is brought in.'],
  ])
})

test('late without a number of days is late, by as many days as late means here', () => {
  const files = packed([])
  files.set('results.csv', csv([['lineItemSourcedId', 'studentSourcedId', 'scoreStatus', 'score', 'late'], ['l1', '3901', 'fully graded', '31', 'true']])) // prettier-ignore
  expect(readRosterResults(files).marks.map((m) => m.text)).toEqual(['31 late'])
})
