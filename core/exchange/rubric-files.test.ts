import fc from 'fast-check'
import { anyRubric } from '../testing/rubrics'
import { readDelimited, unguarded } from './delimited'
import { readRubricSheet, rubricSheet } from './rubric-sheet'
import { guessLayout, levelsGoDown, pointsIn, rubricFromTable, turned } from './rubric-table'
import { writeDelimited } from './write-delimited'

const id = (nth: number) => `c${nth + 1}`
const read = (table: string[][]) => rubricFromTable(table, guessLayout(table), id)

test.each([
  ['4', 4, undefined, ''],
  ['4: clear', 4, undefined, 'clear'],
  ['(3) clear', 3, undefined, 'clear'],
  ['3 points – clear', 3, undefined, 'clear'],
  ['0–3.5: traced', 0, 3.5, 'traced'],
  ['6-4 pts clear', 4, 6, 'clear'],
  ['clear (2,5 points)', 2.5, undefined, 'clear'],
  ['clear – 2', 2, undefined, 'clear'],
  ['5\nclear', 5, undefined, 'clear'],
  ['Excellent 4 points', 4, undefined, 'Excellent'],
  ['Excellent: 4', 4, undefined, 'Excellent'],
  ['Excellent = 4 pts', 4, undefined, 'Excellent'],
  ['Fair 2-3 marks', 2, 3, 'Fair'],
  ['4 pts', 4, undefined, ''],
  ['7,5', 7.5, undefined, ''],
])('points in “%s”', (text, points, to, words) => expect(pointsIn(text)).toEqual({ points, to, words }))
test('words alone have no points', () => {
  expect(pointsIn('names 3 sources')).toBeNull()
  expect(pointsIn('names all 3')).toBeNull()
  expect(pointsIn('')).toBeNull()
})

test('a table with points in its heading, best first', () => {
  const rubric = read([
    ['', 'Excellent (4)', 'Good (3)', 'Poor (0)'],
    ['Purpose', 'serves the reader', 'a reader is named', 'no reader'],
    ['Sources', 'complete', 'incomplete', 'missing'],
  ])
  expect(rubric.map((c) => [c.title, c.levels.map((l) => [l.points, l.words])])).toEqual([
    [
      'Purpose',
      [
        [0, 'no reader'],
        [3, 'a reader is named'],
        [4, 'serves the reader'],
      ],
    ],
    [
      'Sources',
      [
        [0, 'missing'],
        [3, 'incomplete'],
        [4, 'complete'],
      ],
    ],
  ])
})

test('a table with points in its cells, unequal and with ranges; one without points', () => {
  const [purpose, relief] = read([
    ['Criterion', 'Low', 'High'],
    ['Purpose', '0–2 none', '3–8 all of it'],
    ['Relief', '0 wrong', '10 right'],
  ])
  expect(purpose).toMatchObject({
    ranges: true,
    levels: [
      { points: 0, to: 2, words: 'none' },
      { points: 3, to: 8, words: 'all of it' },
    ],
  })
  expect(relief).toMatchObject({
    ranges: false,
    levels: [
      { points: 0, words: 'wrong' },
      { points: 10, words: 'right' },
    ],
  })
  expect(
    read([
      ['', 'Weak', 'Fair', 'Strong'],
      ['Voice', 'flat', 'some', 'rich'],
    ])[0]!.levels.map((l) => l.points),
  ).toEqual([0, 1, 2])
})

test('a heading under a caption, with its points in a row of their own; rows and columns left out', () => {
  const table = [
    ['Part', 'Below', 'At', 'Above', 'Notes'],
    ['Part', '0', '2', '5', '9'],
    ['Purpose', 'none', 'some', 'all', 'ask the panel'],
    ['Sum', '', '', '', ''],
    ['Relief', 'wrong', 'right', 'readable', ''],
  ]
  const layout = guessLayout(table)
  expect(layout).toMatchObject({ heading: 1, leftOut: [0, 3], points: 'heading' })
  const chosen = rubricFromTable(table, { ...layout, leftOut: [0, 3], levelColumns: [1, 2, 3] }, id)
  expect(chosen.map((c) => [c.title, c.levels.map((l) => `${l.points} ${l.words}`)])).toEqual([
    ['Purpose', ['0 none', '2 some', '5 all']],
    ['Relief', ['0 wrong', '2 right', '5 readable']],
  ])
  expect(rubricFromTable(table, { ...layout, heading: null, leftOut: [], points: 'none', levelColumns: [2] }, id)).toHaveLength(5)
})

describe('tables as people have them', () => {
  const shown = (table: string[][]) => read(table).map((c) => [c.title, c.levels.map((l) => `${l.points} ${l.name ?? ''}: ${l.words}`)])

  test('points in a row of their own, wherever it stands, and a total that is no criterion', () =>
    expect(
      shown([
        ['', 'Weak', 'Fair', 'Strong'],
        ['Voice', 'flat', 'some', 'rich'],
        ['Total', '', '', ''],
        ['Points', '0', '2,5', '5'],
      ]),
    ).toEqual([['Voice', ['0 Weak: flat', '2.5 Fair: some', '5 Strong: rich']]]))

  test('a column of what each criterion is worth at most: its levels are spread evenly up to it', () =>
    expect(
      shown([
        ['Criterion', 'Poor', 'Fair', 'Good', 'Max. points'],
        ['Aim', 'none', 'some', 'all', '10'],
        ['Line', 'shaky', 'mixed', 'steady', '4'],
        ['Total points', '', '', '', '14'],
      ]),
    ).toEqual([
      ['Aim', ['0 Poor: none', '5 Fair: some', '10 Good: all']],
      ['Line', ['0 Poor: shaky', '2 Fair: mixed', '4 Good: steady']],
    ]))

  test('levels downwards: the table is turned', () => {
    const down = [
      ['', 'Aim', 'Line'],
      ['Good (3)', 'all', 'steady'],
      ['Poor (1)', 'none', 'shaky'],
    ]
    expect([levelsGoDown(down), levelsGoDown(turned(down))]).toEqual([true, false])
    expect(shown(turned(down))).toEqual([
      ['Aim', ['1 Poor: none', '3 Good: all']],
      ['Line', ['1 Poor: shaky', '3 Good: steady']],
    ])
  })

  test('points below 0 are a penalty, with what each level takes off', () => {
    const [late] = read([
      ['', 'a', 'b', 'c'],
      ['Late', '0: in time', '-2: by a day', '−5: later'],
      ['Aim', '0: none', '2: some', '- three of them (4)'],
    ])
    expect([late!.penalty, late!.levels.map((l) => `${l.points} ${l.words}`)]).toEqual([true, ['0 in time', '2 by a day', '5 later']])
  })
})

test('written as CSV and read again, a rubric is the same: names, descriptions, comments, bands and order too', () =>
  fc.assert(
    fc.property(anyRubric, (made) => {
      const { header, rows } = unguarded(readDelimited(writeDelimited(rubricSheet(made))))
      expect(readRubricSheet([header, ...rows.map((r) => r.cells)], id)).toEqual({ rubric: made, notes: [] })
    }),
  ))
test('what a sheet cannot hold it says', () => {
  const linked = { id: 'c1', title: 'Purpose', ranges: false, penalty: false, levels: [{ points: 0, words: '' }], outcomeIds: ['o'] }
  expect(readRubricSheet(rubricSheet({ criteria: [linked] }), id)!.notes).toEqual([
    'Links to outcomes are not in this file: the CASE file has them.',
  ])
})

test('names of levels are kept apart from their words, wherever the points are', () => {
  const levelsOf = (table: string[][]) => read(table)[0]!.levels
  expect(
    levelsOf([
      ['', 'Excellent (4)', 'Poor (0)'],
      ['Aim', 'all', 'none'],
    ]),
  ).toEqual([
    { points: 0, name: 'Poor', words: 'none' },
    { points: 4, name: 'Excellent', words: 'all' },
  ])
  expect(
    levelsOf([
      ['', 'Poor', 'Good'],
      ['Aim', '0 none', '3 all'],
    ]),
  ).toEqual([
    { points: 0, name: 'Poor', words: 'none' },
    { points: 3, name: 'Good', words: 'all' },
  ])
})
test('levels named best first get the most points unasked; where no name tells, somebody has to say', () => {
  const bestFirst = [
    ['', 'Excellent', 'Satisfactory', 'Poor'],
    ['Aim', 'all', 'some', 'none'],
  ]
  expect(guessLayout(bestFirst)).toMatchObject({ points: 'none', descending: true })
  expect(read(bestFirst)[0]!.levels.map((l) => [l.points, l.name])).toEqual([
    [0, 'Poor'],
    [1, 'Satisfactory'],
    [2, 'Excellent'],
  ])
  expect(
    guessLayout([
      ['', 'Poor', 'Good'],
      ['Aim', 'none', 'all'],
    ]).descending,
  ).toBe(false)
  expect(
    guessLayout([
      ['', 'Oak', 'Birch'],
      ['Aim', 'none', 'all'],
    ]).descending,
  ).toBeNull()
})
